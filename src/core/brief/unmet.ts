import type { Finding } from './types';

/** What is not as it is asked for. */
export function unmet(findings: readonly Finding[]): Finding[] {
  return findings.filter((finding) => finding.verdict !== 'met');
}

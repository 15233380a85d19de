import { Download } from 'lucide-react';

/** Downloads finished files as a zip, once there are any. */
export function ZipLink({
  href,
  label,
  isReady,
}: {
  href: string;
  label: string;
  isReady: boolean;
}) {
  const content = (
    <>
      <Download size={15} /> {label}
    </>
  );
  return isReady ? (
    <a className="btn btn-paper btn-sm" aria-label={label} href={href} download>
      {content}
    </a>
  ) : (
    <button className="btn btn-paper btn-sm" disabled title="Build first">
      {content}
    </button>
  );
}

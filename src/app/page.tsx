import { redirect } from 'next/navigation';
import { errorFacts } from '@/core/errors';
import { bijou } from '@/server/instance';
import { CannotOpen } from './CannotOpen';

export const dynamic = 'force-dynamic';

/** Goes to the first project; an empty data folder gets one to begin with. */
export default async function Home() {
  const opened = await bijou().catch(errorFacts);
  if (!('projects' in opened)) return <CannotOpen {...opened} />;
  const { projects } = opened;
  const id = projects.all()[0]?.id ?? projects.add('My project');
  redirect(`/p/${id}/collect`);
}

import { redirect } from 'next/navigation';
import { bijou } from '@/server/instance';

export const dynamic = 'force-dynamic';

/** Goes to the first project; an empty data folder gets one to begin with. */
export default async function Home() {
  const { projects } = await bijou();
  const id = projects.all()[0]?.id ?? projects.add('My project');
  redirect(`/p/${id}/collect`);
}

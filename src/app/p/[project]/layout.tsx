import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { errorFacts } from '@/core/errors';
import { bijou } from '@/server/instance';
import { Frame } from '@/ui/frame/Frame';
import { ProjectProvider } from '@/ui/shared/project';
import { packState } from '@/wire/travelling';
import { CannotOpen } from '../../CannotOpen';

export default async function ProjectLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ project: string }>;
}) {
  const opened = await bijou().catch(errorFacts);
  if (!('projects' in opened)) return <CannotOpen {...opened} />;
  const { projects, firstPart } = opened;
  const project = projects.byId(Number((await params).project));
  if (!project) notFound();
  return (
    // Another project is another screen: nothing of the one before is kept.
    <ProjectProvider key={project.id} initial={packState(firstPart(project.id))}>
      <Frame projects={projects.all()}>{children}</Frame>
    </ProjectProvider>
  );
}

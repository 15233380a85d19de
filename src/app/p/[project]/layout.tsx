import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { bijou } from '@/server/instance';
import { mostBytes } from '@/server/limits';
import { Frame } from '@/ui/frame/Frame';
import { ProjectProvider } from '@/ui/shared/project';

export default async function ProjectLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ project: string }>;
}) {
  const { projects, projectState } = await bijou();
  const project = projects.byId(Number((await params).project));
  if (!project) notFound();
  return (
    <ProjectProvider initial={projectState(project.id)}>
      <Frame projects={projects.all()} mostBytes={mostBytes()}>
        {children}
      </Frame>
    </ProjectProvider>
  );
}

import { Suspense, lazy } from 'react';
import { Route, Routes } from 'react-router';
import { BeatsPage } from './beats/beats-page';
import { BenchPage } from './bench/bench-page';
import { ProjectRoute, useOpenProject } from './project-route';

function BenchView() {
  const project = useOpenProject();
  return <BenchPage key={project.id} project={project} />;
}

function BeatsView() {
  const project = useOpenProject();
  return <BeatsPage key={project.id} project={project} />;
}

/** Brings the writers of files with it, which nothing before needs. */
const RenderPage = lazy(async () => ({ default: (await import('./render/render-page')).RenderPage }));

function RenderView() {
  const project = useOpenProject();
  return (
    <Suspense fallback={null}>
      <RenderPage project={project} />
    </Suspense>
  );
}

/** The views of one project: what the shelf needs none of. */
export function ProjectPages() {
  return (
    <Routes>
      <Route path=":id" element={<ProjectRoute />}>
        <Route index element={<BenchView />} />
        <Route path="beats" element={<BeatsView />} />
        <Route path="render" element={<RenderView />} />
      </Route>
    </Routes>
  );
}

import { App as AntApp, ConfigProvider } from 'antd';
import { lazy, Suspense, useEffect, type CSSProperties } from 'react';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { onEditProblem } from '../editing/editing.ts';
import { useAppSelector } from './store.ts';
import { SURROUNDS, themeOf } from './theme.ts';

const ProjectFrame = lazy(() => import('./ProjectFrame.tsx'));
const ProjectsPage = lazy(() => import('../stages/projects/ProjectsPage.tsx'));
const router = createBrowserRouter([
  { path: '/', element: <ProjectsPage /> },
  { path: '/projects/:projectId', element: <Navigate to="shots" replace /> },
  { path: '/projects/:projectId/:stage', element: <ProjectFrame /> },
  { path: '*', element: <Navigate to="/" replace /> },
]);

function Problems() {
  const { notification } = AntApp.useApp();
  useEffect(
    () => onEditProblem((description) => notification.warning({ title: 'Not done', description, duration: 0 })),
    [notification],
  );
  return null;
}

export function App() {
  const name = useAppSelector((s) => s.surround);
  const s = SURROUNDS[name];
  const variables = {
    '--base': s.base,
    '--panel': s.panel,
    '--raised': s.raised,
    '--line': s.line,
    '--text': s.text,
    '--quiet': s.quiet,
    '--active': s.active,
    '--on-active': s.onActive,
    '--surround': s.surround,
  } as CSSProperties;
  return (
    <ConfigProvider theme={themeOf(name)} wave={{ disabled: true }}>
      <AntApp style={{ height: '100%' }}>
        <Problems />
        <div className={`app surround-${name}`} style={variables}>
          <Suspense fallback={<div className="empty">Loading …</div>}>
            <RouterProvider router={router} />
          </Suspense>
        </div>
      </AntApp>
    </ConfigProvider>
  );
}

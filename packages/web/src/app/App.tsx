import { App as AntApp, ConfigProvider } from 'antd';
import { lazy, Suspense, useEffect, useMemo } from 'react';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { onEditProblem } from '../editing/editing.ts';
import { refused } from '../view/traySlice.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import { themeOf, variablesOf } from './theme.ts';
import { useIsWide } from './useIsWide.ts';

const ProjectFrame = lazy(() => import('./ProjectFrame.tsx'));
const ProjectsPage = lazy(() => import('../stages/projects/ProjectsPage.tsx'));
// every shared part on one page, for whoever builds or changes them
const Kit = import.meta.env.DEV ? lazy(() => import('../kit/Kit.tsx')) : undefined;
const router = createBrowserRouter([
  ...(Kit ? [{ path: '/kit', element: <Kit /> }] : []),
  { path: '/', element: <ProjectsPage /> },
  { path: '/projects/:projectId', element: <Navigate to="shots" replace /> },
  { path: '/projects/:projectId/:stage', element: <ProjectFrame /> },
  { path: '*', element: <Navigate to="/" replace /> },
]);

/** Says for a while what could not be done; the tray keeps it. */
function Problems() {
  const { notification } = AntApp.useApp();
  const dispatch = useAppDispatch();
  useEffect(
    () =>
      onEditProblem((description) => {
        dispatch(refused({ text: description, at: Date.now() }));
        notification.warning({ title: 'Not done', description });
      }),
    [notification, dispatch],
  );
  return null;
}

/** Notices lie over the picture's lower corner, where nothing is pressed, and go by themselves. */
const NOTICES = { placement: 'bottomRight', bottom: 96, duration: 7, maxCount: 3 } as const;
const MESSAGES = { top: 168, duration: 5, maxCount: 2 } as const;

export function App() {
  const { surround, textStep } = useAppSelector((s) => s.room);
  const step = textStep + (useIsWide() ? 1 : 0);
  const variables = useMemo(() => variablesOf(surround, step), [surround, step]);
  // dialogs and menus stand outside the page's own element
  useEffect(() => {
    for (const [name, value] of Object.entries(variables)) document.documentElement.style.setProperty(name, value);
  }, [variables]);
  return (
    <ConfigProvider theme={themeOf(surround, step)} wave={{ disabled: true }}>
      <AntApp style={{ height: '100%' }} notification={NOTICES} message={MESSAGES}>
        <Problems />
        <div className={`app surround-${surround}`} style={variables}>
          <Suspense fallback={<div className="empty">Loading …</div>}>
            <RouterProvider router={router} />
          </Suspense>
        </div>
      </AntApp>
    </ConfigProvider>
  );
}

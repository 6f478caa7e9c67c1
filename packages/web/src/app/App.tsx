import { ConfigProvider } from 'antd';
import { lazy, Suspense, useEffect, useMemo } from 'react';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { onEditProblem } from '../editing/editing.ts';
import { refused } from '../view/traySlice.ts';
import { NoticesGiven, useNotices } from './Notices.tsx';
import { useAppDispatch, useAppSelector } from './store.ts';
import { themeOf, variablesOf } from './theme.ts';
import { useIsWide } from './useIsWide.ts';

const ProjectFrame = lazy(() => import('./ProjectFrame.tsx'));
const ProjectsPage = lazy(() => import('../stages/projects/ProjectsPage.tsx'));
// what a client is given: nothing of a project's own screens comes with it
const ReviewPage = lazy(() => import('../review/ReviewPage.tsx'));
const SignInPage = lazy(() => import('../people/SignInPage.tsx'));
const InvitationPage = lazy(() => import('../people/InvitationPage.tsx'));
// every shared part on one page, for whoever builds or changes them
const Kit = import.meta.env.DEV ? lazy(() => import('../kit/Kit.tsx')) : undefined;

/** Says for a while what could not be done; the tray keeps it. */
function Problems() {
  const { notification } = useNotices();
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

export function App() {
  const { surround, textStep } = useAppSelector((s) => s.room);
  const isSignInWanted = useAppSelector((s) => s.signIn.isWanted);
  const step = textStep + (useIsWide() ? 1 : 0);
  const variables = useMemo(() => variablesOf(surround, step), [surround, step]);
  // dialogs and menus stand outside the page's own element
  useEffect(() => {
    for (const [name, value] of Object.entries(variables)) document.documentElement.style.setProperty(name, value);
  }, [variables]);
  return (
    <ConfigProvider theme={themeOf(surround, step)} wave={{ disabled: true }}>
      <NoticesGiven>
        <Problems />
        <div className={`app surround-${surround}`} style={variables}>
          <Suspense fallback={<div className="empty">Loading …</div>}>
            <BrowserRouter>
              <Routes>
                {Kit && <Route path="/kit" element={<Kit />} />}
                <Route path="/" element={<ProjectsPage />} />
                <Route path="/projects/:projectId" element={<Navigate to="shots" replace />} />
                <Route path="/projects/:projectId/:stage" element={<ProjectFrame />} />
                <Route path="/review/:token" element={<ReviewPage />} />
                <Route path="/invitation/:token" element={<InvitationPage />} />
                <Route path="*" element={<Navigate to="/" replace />} />
              </Routes>
            </BrowserRouter>
            {isSignInWanted && <SignInPage />}
          </Suspense>
        </div>
      </NoticesGiven>
    </ConfigProvider>
  );
}

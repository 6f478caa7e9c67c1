import type { MessageInstance } from 'antd/es/message/interface';
import type { NotificationInstance } from 'antd/es/notification/interface';
import { createContext, lazy, Suspense, useContext, useState, type ReactNode } from 'react';
import { SaidLater } from './SaidLater.ts';

/** Who shows what is said. */
export interface Hearer {
  message: MessageInstance;
  notification: NotificationInstance;
}
const MESSAGES = ['error', 'warning', 'success', 'open', 'destroy'] as const;
type Notices = {
  message: { [K in (typeof MESSAGES)[number]]: (...what: Parameters<MessageInstance[K]>) => void };
  notification: { warning: (...what: Parameters<NotificationInstance['warning']>) => void };
};
const Given = createContext<Notices | undefined>(undefined);
/** Loads what shows them; they ask for it themselves when something is said. */
export const importNoticeHost = () => import('./NoticeHost.tsx');
const NoticeHost = lazy(importNoticeHost);

function noticesTo(later: SaidLater<Hearer>): Notices {
  const message = Object.fromEntries(
    MESSAGES.map((kind) => [
      kind,
      (...what: unknown[]) =>
        later.say(({ message: to }) => void (to[kind] as (...all: unknown[]) => unknown)(...what)),
    ]),
  ) as unknown as Notices['message'];
  return { message, notification: { warning: (what) => later.say(({ notification }) => notification.warning(what)) } };
}

/** Lets what is inside say something to the user. */
export function NoticesGiven({ children }: { children: ReactNode }) {
  const [isWanted, setWanted] = useState(false);
  const [later] = useState(() => new SaidLater<Hearer>(() => setWanted(true)));
  const [notices] = useState(() => noticesTo(later));
  return (
    <Given value={notices}>
      {isWanted && (
        <Suspense fallback={null}>
          <NoticeHost later={later} />
        </Suspense>
      )}
      {children}
    </Given>
  );
}

export function useNotices(): Notices {
  const notices = useContext(Given);
  if (!notices) throw new Error('notices are given only inside NoticesGiven');
  return notices;
}

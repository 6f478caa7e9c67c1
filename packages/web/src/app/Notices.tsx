import { message as messages, notification as notifications } from 'antd';
import { createContext, useContext, useMemo, type ReactNode } from 'react';

type Notices = {
  message: ReturnType<typeof messages.useMessage>[0];
  notification: ReturnType<typeof notifications.useNotification>[0];
};
/** Notices lie over the picture's lower corner, where nothing is pressed, and go by themselves. */
const NOTIFICATIONS = { placement: 'bottomRight', bottom: 96, duration: 7, maxCount: 3 } as const;
const MESSAGES = { top: 168, duration: 5, maxCount: 2 } as const;
const Given = createContext<Notices | undefined>(undefined);

/** Lets what is inside say something to the user. */
export function NoticesGiven({ children }: { children: ReactNode }) {
  const [message, shownMessages] = messages.useMessage(MESSAGES);
  const [notification, shownNotifications] = notifications.useNotification(NOTIFICATIONS);
  const notices = useMemo(() => ({ message, notification }), [message, notification]);
  return (
    <Given value={notices}>
      {shownMessages}
      {shownNotifications}
      {children}
    </Given>
  );
}

export function useNotices(): Notices {
  const notices = useContext(Given);
  if (!notices) throw new Error('notices are given only inside NoticesGiven');
  return notices;
}

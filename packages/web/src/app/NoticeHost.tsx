import { message as messages, notification as notifications } from 'antd';
import { useEffect } from 'react';
import type { Hearer } from './Notices.tsx';
import type { SaidLater } from './SaidLater.ts';

/** Notices lie over the picture's lower corner, where nothing is pressed, and go by themselves. */
const NOTIFICATIONS = { placement: 'bottomRight', bottom: 96, duration: 7, maxCount: 3 } as const;
const MESSAGES = { top: 168, duration: 5, maxCount: 2 } as const;

/** Shows what is said. Loaded after the first picture, or when there is something to say. */
export default function NoticeHost({ later }: { later: SaidLater<Hearer> }) {
  const [message, shownMessages] = messages.useMessage(MESSAGES);
  const [notification, shownNotifications] = notifications.useNotification(NOTIFICATIONS);
  useEffect(() => {
    later.heardBy({ message, notification });
    return () => later.heardBy(undefined);
  }, [later, message, notification]);
  return (
    <>
      {shownMessages}
      {shownNotifications}
    </>
  );
}

import { Alert, Typography } from 'antd';
import type { Invitation } from '@mellow/contract';

/** The link to hand over: it is shown once, the server keeps only what it can check it by. */
export function InvitationLink({ invitation: { person, token, expiresAt } }: { invitation: Invitation }) {
  const link = new URL(`/invitation/${token}`, location.href).href;
  const until = new Date(expiresAt).toLocaleDateString(undefined, { dateStyle: 'medium' });
  return (
    <Alert
      type="success"
      title={`Give this link to ${person.name}: it is good once, until ${until}, and is not shown again.`}
      description={
        <Typography.Text copyable className="mono" aria-label={`Invitation of ${person.name}`}>
          {link}
        </Typography.Text>
      }
    />
  );
}

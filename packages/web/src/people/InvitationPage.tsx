import { Alert, Button, Form, Input } from 'antd';
import { Link, useParams } from 'react-router';
import { useAcceptInvitationMutation, useInvitationQuery } from '../data/people.ts';
import { problemText } from '../data/requests.ts';
import './people.css';

const LEAST = 10;
const RULES = [
  { required: true, message: 'Choose a password' },
  { min: LEAST, message: `At least ${LEAST} characters: a few words are easy to keep in mind` },
];

/** What an invitation opens: whose account it is, and a password to choose for it. */
export default function InvitationPage() {
  const token = useParams().token!;
  const { data: invited, error } = useInvitationQuery(token);
  const [accept, { error: refused, isLoading }] = useAcceptInvitationMutation();
  const enter = async ({ password }: { password: string }) => {
    const answer = await accept({ token, password });
    if (answer.data) location.assign('/');
  };
  if (error)
    return (
      <div className="empty">
        <p>{problemText(error)}</p>
        <Link to="/">Sign in</Link>
      </div>
    );
  if (!invited) return <div className="empty">Opening the invitation …</div>;
  return (
    <main className="sign-in">
      <Form
        requiredMark={false}
        layout="vertical"
        className="sign-in-form"
        disabled={isLoading}
        onFinish={(p) => void enter(p as never)}
      >
        <h1>Welcome, {invited.name}</h1>
        <p className="quiet">
          Choose a password; you sign in as <b>{invited.login}</b>.
        </p>
        {/* what a browser keeps the password under */}
        <input type="text" autoComplete="username" value={invited.login} readOnly hidden />
        <Form.Item name="password" label="Password" rules={RULES}>
          <Input.Password autoFocus autoComplete="new-password" maxLength={200} />
        </Form.Item>
        {refused ? <Alert type="error" title={problemText(refused)} style={{ marginBottom: 14 }} /> : null}
        <Button type="primary" htmlType="submit" block loading={isLoading}>
          Come in
        </Button>
      </Form>
    </main>
  );
}

import { Alert, Button, Form, Input } from 'antd';
import type { BodyOf } from '@mellow/contract';
import { useMeQuery, useSignInMutation } from '../data/people.ts';
import { addressOf, problemText } from '../data/requests.ts';
import { SwatchPair } from '../ui/SwatchPair.tsx';
import './people.css';

/** Asks who one is, over whatever was open; then the page begins anew where it was, with all that was left unsent. */
export default function SignInPage() {
  const { data: me } = useMeQuery();
  const [signIn, { error, isLoading }] = useSignInMutation();
  const enter = async (credentials: BodyOf<'signIn'>) => {
    const answer = await signIn(credentials);
    if (answer.data) location.reload();
  };
  return (
    <div className="sign-in" role="dialog" aria-modal="true" aria-label="Sign in">
      <Form
        requiredMark={false}
        layout="vertical"
        className="sign-in-form"
        disabled={isLoading}
        onFinish={(c) => void enter(c as never)}
      >
        <h1 className="row">
          <SwatchPair from="#8a8a8a" to="#d8d8d8" size={24} /> Mellow Hue
        </h1>
        <Form.Item name="login" label="Name or e-mail address" rules={[{ required: true, message: 'Say who you are' }]}>
          <Input autoFocus autoComplete="username" />
        </Form.Item>
        <Form.Item name="password" label="Password" rules={[{ required: true, message: 'Your password' }]}>
          <Input.Password autoComplete="current-password" />
        </Form.Item>
        {error ? <Alert type="error" title={problemText(error)} style={{ marginBottom: 14 }} /> : null}
        <Button type="primary" htmlType="submit" block loading={isLoading}>
          Sign in
        </Button>
        {me?.provider && (
          <Button block href={addressOf('signInElsewhere')} style={{ marginTop: 10 }}>
            Sign in with {me.provider}
          </Button>
        )}
      </Form>
    </div>
  );
}

import { Tour } from 'antd';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { useStage } from '../app/stages.ts';
import { FIRST_STEPS } from './firstSteps.ts';

/** How long a control is waited for that comes with its stage, ms, and how often it is looked for. */
const [PATIENCE, EVERY] = [4000, 100];

/** Leads through the five steps, from stage to stage; what it points at can be used meanwhile. */
export default function FirstSteps({ projectId, onClose }: { projectId: string; onClose: () => void }) {
  const [at, setAt] = useState(0);
  const [target, setTarget] = useState<HTMLElement | null>(null);
  const stage = useStage();
  const navigate = useNavigate();
  const step = FIRST_STEPS[at]!;
  useEffect(() => {
    if (stage !== step.stage) void navigate(`/projects/${projectId}/${step.stage}`);
    let left = PATIENCE;
    const look = () => {
      const found = document.querySelector<HTMLElement>(step.at);
      setTarget(found);
      left -= EVERY;
      if (found || left <= 0) clearInterval(looking);
    };
    const looking = setInterval(look, EVERY);
    look();
    return () => clearInterval(looking);
    // where one goes by oneself meanwhile is left alone
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at]);
  return (
    <Tour
      open
      mask={false}
      current={at}
      onChange={setAt}
      onClose={onClose}
      onFinish={onClose}
      steps={FIRST_STEPS.map(({ title, text }) => ({ title, description: text, target: () => target! }))}
    />
  );
}

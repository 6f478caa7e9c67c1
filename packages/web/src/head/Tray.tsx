import { Badge, Button, Popover, Progress } from 'antd';
import { Inbox, Users } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import type { Job } from '@mellow/contract';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import { useCancelJobMutation, useJobsQuery, useRetryJobMutation } from '../data/api.ts';
import { jobPutAway, refusalPutAway } from '../view/traySlice.ts';
import { secondsLeft } from '../ui/secondsLeft.ts';
import { trayOf } from './trayOf.ts';

/** What is under way, what was done and what was refused, in one place; and how many work on the project. */
export function Tray({ projectId }: { projectId: string }) {
  const [openedAt] = useState(Date.now);
  const { here, people, measuring, refusals, putAway } = useAppSelector((s) => s.tray);
  // people who have signed in stand beside the tray, by name
  const isCounted = here > 1 && people.length === 0;
  const { data: jobs = [] } = useJobsQuery(projectId);
  const { underWay, failed, done } = trayOf(jobs, openedAt, putAway);
  const busy = underWay.length + measuring.length;
  const troubles = failed.length + refusals.length;
  const says = [
    busy > 0 ? `${busy} under way` : 'nothing under way',
    troubles > 0 && `${troubles} not done`,
    here > 1 && `${here} have this project open`,
  ].filter(Boolean);
  const content = (
    <div className="tray">
      <TrayPart title="Under way" none="Nothing is under way.">
        {underWay.map((job) => (
          <JobRow key={job.id} job={job} />
        ))}
        <MeasuringRows />
      </TrayPart>
      {troubles > 0 && (
        <TrayPart title="Not done">
          {failed.map((job) => (
            <JobRow key={job.id} job={job} />
          ))}
          {refusals.map(({ id, text, at }) => (
            <PutAway key={id} action={refusalPutAway(id)}>
              {text} <span className="quiet">{new Date(at).toLocaleTimeString()}</span>
            </PutAway>
          ))}
        </TrayPart>
      )}
      {done.length > 0 && (
        <TrayPart title="Done">
          {done.slice(0, 12).map((job) => (
            <PutAway key={job.id} action={jobPutAway(job.id)}>
              ✓ {job.title}
            </PutAway>
          ))}
        </TrayPart>
      )}
      {here > 1 && (
        <div className="quiet">{here} have this project open; each sees the other’s edits as they are made.</div>
      )}
    </div>
  );
  return (
    <Popover trigger="click" placement="bottomRight" title="Under way and done" content={content}>
      <Button size="small" type="text" aria-label={`Tray: ${says.join(', ')}`}>
        <Badge count={busy || troubles} size="small" dot={busy === 0 && troubles > 0}>
          <Inbox size={16} />
        </Badge>
        {isCounted && (
          <span className="row">
            <Users size={14} />
            {here}
          </span>
        )}
      </Button>
    </Popover>
  );
}

function TrayPart({ title, none, children }: { title: string; none?: string; children: ReactNode }) {
  const isEmpty = Array.isArray(children) && children.flat().every((c) => !c);
  return (
    <section>
      <h3>{title}</h3>
      {isEmpty && none ? <span className="quiet">{none}</span> : children}
    </section>
  );
}

function PutAway({
  action,
  children,
}: {
  action: Parameters<ReturnType<typeof useAppDispatch>>[0];
  children: ReactNode;
}) {
  const dispatch = useAppDispatch();
  return (
    <div className="row">
      <span className="grow">{children}</span>
      <Button size="small" type="text" onClick={() => dispatch(action)}>
        Put away
      </Button>
    </div>
  );
}

function JobRow({ job }: { job: Job }) {
  const dispatch = useAppDispatch();
  const [cancel] = useCancelJobMutation();
  const [retry] = useRetryJobMutation();
  const { id, title, state, done, total, message } = job;
  const left = secondsLeft(job, Date.now());
  if (state === 'failed')
    return (
      <div className="row">
        <span className="grow">
          ✕ {title}: {message}
        </span>
        <Button size="small" onClick={() => void retry(id)}>
          Start again
        </Button>
        <Button size="small" type="text" onClick={() => dispatch(jobPutAway(id))}>
          Put away
        </Button>
      </div>
    );
  return (
    <div className="row">
      <span className="grow">
        {title} <span className="quiet">{state === 'queued' ? 'waits' : left !== undefined && `${left} s left`}</span>
        <Progress percent={total > 0 ? Math.round((100 * done) / total) : 0} size="small" aria-label={title} />
      </span>
      <Button size="small" onClick={() => void cancel(id)}>
        Cancel
      </Button>
    </div>
  );
}

/** Measuring is taken up again by itself after every edit: it is shown, there is nothing to cancel. */
function MeasuringRows() {
  const measuring = useAppSelector((s) => s.tray.measuring);
  if (measuring.length === 0) return null;
  const [done, total] = (['done', 'total'] as const).map((k) => measuring.reduce((sum, m) => sum + m[k], 0));
  return (
    <div>
      Measuring the colours{' '}
      <span className="quiet mono">
        {done} / {total} frames
      </span>
    </div>
  );
}

import { Button, Dropdown, Select, Tooltip } from 'antd';
import { Redo2, SunMedium, Undo2 } from 'lucide-react';
import { lazy, useMemo } from 'react';
import { useKeys } from '../ui/useKeys.ts';
import { Link, NavLink, useParams } from 'react-router';
import type { ProjectDocument } from '@mellow/contract';
import { Ribbon } from '../ribbon/Ribbon.tsx';
import { meanHex, requiredHex, SwatchPair } from '../ui/colour.tsx';
import { problemText, useMeasurementsQuery } from './api.ts';
import { stepHistory } from './editing.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import { SURROUNDS, type Surround } from './theme.ts';
import { placeChanged, useInHand, useProjectData, type InHand } from './useProject.ts';
import { surroundChosen } from './viewSlice.ts';

const STAGES = {
  shots: { label: 'Shots', page: lazy(() => import('../stages/shots/ShotsStage.tsx')) },
  isolate: { label: 'Isolate', page: lazy(() => import('../stages/isolate/IsolateStage.tsx')) },
  recolour: { label: 'Recolour', page: lazy(() => import('../stages/recolour/RecolourStage.tsx')) },
  lineup: { label: 'Line-up', page: lazy(() => import('../stages/lineup/LineupStage.tsx')) },
  deliver: { label: 'Deliver', page: lazy(() => import('../stages/deliver/DeliverStage.tsx')) },
} as const;

export default function ProjectFrame() {
  const { projectId, document, error } = useProjectData();
  if (error)
    return (
      <div className="empty">
        <p>{problemText(error)}</p>
        <Link to="/">All projects</Link>
      </div>
    );
  if (!document) return <div className="empty">Opening the project …</div>;
  return <Opened key={projectId} document={document} />;
}

function Opened({ document }: { document: ProjectDocument }) {
  const { stage = 'shots' } = useParams();
  const inHand = useInHand(document);
  const Page = (STAGES[stage as keyof typeof STAGES] ?? STAGES.shots).page;
  return (
    <>
      <TopBar inHand={inHand} />
      <Ribbon inHand={inHand} />
      <main className="work">
        <Page inHand={inHand} />
      </main>
    </>
  );
}

function TopBar({ inHand }: { inHand: InHand }) {
  const { document, piece, colourwayId } = inHand;
  const projectId = document.project.value.id;
  const dispatch = useAppDispatch();
  const saving = useAppSelector((s) => s.view.saving);
  const surround = useAppSelector((s) => s.view.surround);
  const { data: measurements = [] } = useMeasurementsQuery(projectId);
  const { undo, redo } = document.history;
  const step = (direction: 'undo' | 'redo') => void stepHistory(projectId, direction);
  useKeys(
    'mod+z',
    (e) => {
      e.preventDefault();
      if (undo) step('undo');
    },
    [undo],
  );
  useKeys(
    'mod+shift+z,mod+y',
    (e) => {
      e.preventDefault();
      if (redo) step('redo');
    },
    [redo],
  );
  const options = useMemo(
    () =>
      document.pieces.map(({ value: p }) => {
        const sighting = measurements.find(
          (m) =>
            m.colourwayId === colourwayId &&
            document.sightings.some((s) => s.value.id === m.sightingId && s.value.pieceId === p.id),
        );
        const requirement = document.requirements.find(
          (r) => r.value.pieceId === p.id && r.value.colourwayId === colourwayId,
        )?.value;
        return {
          value: p.id as string,
          label: (
            <span className="row">
              <SwatchPair from={meanHex(sighting?.frames.map((f) => f.before) ?? [])} to={requiredHex(requirement)} />
              {p.name}
            </span>
          ),
        };
      }),
    [document, measurements, colourwayId],
  );
  return (
    <header className="topbar">
      <Link to="/" aria-label="All projects">
        <SwatchPair from="#8a8a8a" to="#d8d8d8" size={24} />
      </Link>
      <strong>{document.project.value.name}</strong>
      {document.pieces.length > 0 && (
        <Select
          aria-label="Piece"
          size="small"
          style={{ width: 170 }}
          value={piece?.id as string}
          options={options}
          onChange={(id) => dispatch(placeChanged({ pieceId: id, layerId: null }))}
        />
      )}
      <Select
        aria-label="Colourway"
        size="small"
        style={{ width: 110 }}
        value={colourwayId as string}
        options={document.colourways.map((c) => ({ value: c.value.id as string, label: c.value.name }))}
        onChange={(id) => dispatch(placeChanged({ colourwayId: id }))}
      />
      <span className="spring" />
      <nav className="stages" aria-label="Stages">
        {Object.entries(STAGES).map(([key, { label }]) => (
          <NavLink key={key} to={`/projects/${projectId}/${key}`}>
            {label}
          </NavLink>
        ))}
      </nav>
      <span className="spring" />
      <span className="quiet" role="status" style={{ width: 150, textAlign: 'right' }}>
        {saving === 'saved' ? 'saved' : saving === 'saving' ? 'saving …' : 'server away: kept here'}
      </span>
      <Tooltip title={undo ? `Undo: ${undo}` : 'Nothing to undo'}>
        <Button size="small" type="text" aria-label="Undo" disabled={!undo} onClick={() => step('undo')}>
          <Undo2 size={16} />
        </Button>
      </Tooltip>
      <Tooltip title={redo ? `Redo: ${redo}` : 'Nothing to redo'}>
        <Button size="small" type="text" aria-label="Redo" disabled={!redo} onClick={() => step('redo')}>
          <Redo2 size={16} />
        </Button>
      </Tooltip>
      <Dropdown
        menu={{
          selectable: true,
          selectedKeys: [surround],
          items: Object.entries(SURROUNDS).map(([key, s]) => ({ key, label: `${s.label} room` })),
          onClick: ({ key }) => dispatch(surroundChosen(key as Surround)),
        }}
      >
        <Button size="small" type="text" aria-label="Room brightness">
          <SunMedium size={16} />
        </Button>
      </Dropdown>
    </header>
  );
}

import { Button, Form, Popover, Segmented, Select } from 'antd';
import { YCBCR_MATRICES, type Media } from '@mellow/contract';
import { useReading } from './useReading.ts';

const MATRICES = Object.entries(YCBCR_MATRICES).map(([value, label]) => ({ value, label }));
const matrixText = (matrix: string): string =>
  matrix === 'gbr' ? 'RGB' : (MATRICES.find(({ value }) => value === matrix)?.label ?? matrix);

/** How the samples of a footage are read, and how they may be, where its file states it wrongly or not at all. */
function ReadingForm({ projectId, media }: { projectId: string; media: Media }) {
  const { read, isBusy } = useReading(projectId, media);
  const { stated, fields } = media;
  return (
    <Form size="small" layout="vertical" disabled={isBusy} style={{ width: 264 }}>
      {media.matrix !== 'gbr' && (
        <Form.Item label="YCbCr matrix">
          <Select
            aria-label={`Matrix of ${media.name}`}
            value={media.matrix}
            options={MATRICES}
            onChange={(matrix) => read({ matrix: matrix as keyof typeof YCBCR_MATRICES })}
          />
        </Form.Item>
      )}
      <Form.Item label="Range">
        <Segmented
          block
          aria-label={`Range of ${media.name}`}
          value={media.range}
          options={['limited', 'full'] as const}
          onChange={(range) => read({ range })}
        />
      </Form.Item>
      {fields !== 'progressive' && (
        <Form.Item label={`Interlaced, ${fields.replace(' ', ' field ')}`}>
          <Segmented
            block
            aria-label={`Fields of ${media.name}`}
            value={media.isDeinterlaced ? 'deinterlaced' : 'both fields'}
            options={['both fields', 'deinterlaced']}
            onChange={(value) => read({ isDeinterlaced: value === 'deinterlaced' })}
          />
        </Form.Item>
      )}
      <p className="quiet" style={{ margin: 0 }}>
        {stated
          ? `The file was taken as ${matrixText(stated.matrix)}, ${stated.range}.`
          : 'As the file states, or as was assumed.'}{' '}
        All shots made of it follow; their frames are made anew.
      </p>
    </Form>
  );
}

/** The samples of a footage in a few words; pressed, how they are read. */
export function ReadingMenu({ projectId, media }: { projectId: string; media: Media }) {
  return (
    <Popover
      trigger="click"
      destroyOnHidden
      placement="bottomLeft"
      content={<ReadingForm projectId={projectId} media={media} />}
    >
      <Button size="small" type="text" className="two-lines" aria-label={`How ${media.name} is read`}>
        <span>
          {media.codec} {media.bitDepth} bit
        </span>
        <span className="quiet">
          {matrixText(media.matrix)}, {media.range}
          {media.stated ? ' *' : ''}
        </span>
        {media.fields !== 'progressive' && (
          <span className="quiet">{media.isDeinterlaced ? 'deinterlaced' : 'interlaced'}</span>
        )}
      </Button>
    </Popover>
  );
}

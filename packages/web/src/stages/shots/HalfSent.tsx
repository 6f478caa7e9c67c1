import { Alert, Button } from 'antd';
import { api, useUploadsQuery } from '../../data/api.ts';
import { useAppDispatch } from '../../app/store.ts';
import { halfSentText } from './halfSent.ts';

/** What was broken off when a page was closed: chosen again, it goes on from there. */
export function HalfSent() {
  const dispatch = useAppDispatch();
  const { data } = useUploadsQuery();
  const uploads = data?.filter((upload) => upload.here > 0) ?? [];
  if (uploads.length === 0) return null;
  const drop = async () => {
    const { dropAll } = await import('../../data/sending.ts');
    await dropAll(uploads);
    dispatch(api.util.invalidateTags(['Uploads']));
  };
  return (
    <Alert
      type="info"
      showIcon
      style={{ marginTop: 12 }}
      title={halfSentText(uploads)}
      action={
        <Button size="small" onClick={() => void drop()}>
          Drop
        </Button>
      }
    />
  );
}

import { Button } from 'antd';
import { useOpenZip } from './useOpenZip.ts';

/** Makes a project of one that was saved as a zip. Says how far it is in words: a bar would be loaded with the page. */
export function OpenZip() {
  const { sending, ask } = useOpenZip();
  if (!sending)
    return (
      <Button title="Make a project of one that was saved to a zip" onClick={ask}>
        Open a zip
      </Button>
    );
  return (
    <span className="row" role="status">
      <span className="quiet">
        {sending.share < 1 ? `Sending, ${Math.round(100 * sending.share)} %` : 'Unpacking …'}
      </span>
      <Button size="small" onClick={sending.abort}>
        Cancel
      </Button>
    </span>
  );
}

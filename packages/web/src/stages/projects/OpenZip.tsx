import { Button, Progress, Upload } from 'antd';
import { useOpenZip } from './useOpenZip.ts';

/** Makes a project of one that was saved as a zip. */
export function OpenZip() {
  const { sending, send } = useOpenZip();
  if (sending)
    return (
      <span className="row">
        <span className="quiet">{sending.share < 1 ? 'Sending' : 'Unpacking'}</span>
        <Progress percent={Math.round(100 * sending.share)} size="small" style={{ width: 120 }} />
        <Button size="small" onClick={sending.abort}>
          Cancel
        </Button>
      </span>
    );
  return (
    <Upload
      accept=".zip"
      showUploadList={false}
      beforeUpload={(file) => {
        send(file);
        return false;
      }}
    >
      <Button title="Make a project of one that was saved to a zip">Open a zip</Button>
    </Upload>
  );
}

import { Button, Dropdown, Space, type ButtonProps } from 'antd';
import { ChevronDown } from 'lucide-react';
import type { ReactNode } from 'react';

/** Another way to do what the button does. */
interface OtherWay {
  key: string;
  label: ReactNode;
  onClick: () => void;
}
interface Props extends Pick<ButtonProps, 'size' | 'type' | 'loading' | 'disabled'> {
  onClick: () => void;
  /** What the arrow beside it is called. */
  more: string;
  ways: readonly OtherWay[];
  /** Names the button for whoever points at it from elsewhere. */
  step?: string;
  children: ReactNode;
}
/** A button that does the usual thing, and beside it an arrow with the other ways to do it. */
export function SplitButton({ onClick, more, ways, step, children, ...button }: Props) {
  return (
    <Space.Compact block={button.size !== 'small'}>
      <Button {...button} {...(step && { 'data-step': step })} onClick={onClick} style={{ flex: 1 }}>
        {children}
      </Button>
      <Dropdown
        trigger={['click']}
        placement="bottomRight"
        disabled={button.disabled === true || Boolean(button.loading)}
        menu={{
          items: ways.map(({ key, label }) => ({ key, label })),
          onClick: ({ key }) => ways.find((way) => way.key === key)?.onClick(),
        }}
      >
        <Button {...button} loading={false} aria-label={more} icon={<ChevronDown size={14} />} />
      </Dropdown>
    </Space.Compact>
  );
}

import { Input, Modal, type InputRef } from 'antd';
import { useRef, useState, type ReactNode } from 'react';

export interface NameQuestion {
  title: string;
  label: string;
  was?: string;
  ok?: string;
  onName: (name: string) => void;
  onClose: () => void;
  /** What else is asked, below the name. */
  children?: ReactNode;
}
/** Asks for a name; Enter gives it. */
export default function AskNameDialog(question: NameQuestion) {
  const { title, label, was = '', ok = 'Rename', onName, onClose, children } = question;
  const [name, setName] = useState(was);
  const input = useRef<InputRef>(null);
  const done = () => {
    if (!name.trim()) return;
    onName(name.trim());
    onClose();
  };
  return (
    <Modal
      open
      title={title}
      okText={ok}
      okButtonProps={{ disabled: !name.trim() }}
      onOk={done}
      onCancel={onClose}
      afterOpenChange={(isOpen) => isOpen && input.current?.focus({ cursor: 'all' })}
    >
      <Input
        ref={input}
        aria-label={label}
        maxLength={120}
        value={name}
        onChange={(e) => setName(e.target.value)}
        onPressEnter={done}
      />
      {children}
    </Modal>
  );
}

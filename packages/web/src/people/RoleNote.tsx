import { Tag, Tooltip } from 'antd';
import type { Role } from '@mellow/contract';
import { ROLE_MEANS, ROLE_TEXT } from './roleText.ts';

/** Says to who may not do everything what they are here. */
export function RoleNote({ role }: { role: Role }) {
  if (role === 'editor') return null;
  return (
    <Tooltip title={ROLE_MEANS[role]}>
      <Tag style={{ margin: 0 }}>{ROLE_TEXT[role]}</Tag>
    </Tooltip>
  );
}

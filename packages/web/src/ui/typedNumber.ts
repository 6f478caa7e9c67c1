import jsep, { type Expression } from 'jsep';

/**
 * What has been typed into a number field: a number, with a point or a comma, or arithmetic (`2+3`, `(7-1)/4`); what
 * begins with `*` or `/` goes on from the field's own `value`. Undefined where it is neither, or not finite.
 */
export function typedNumber(text: string, value: number): number | undefined {
  const plain = text.trim().replaceAll(',', '.').replaceAll('−', '-');
  const whole = /^[*/]/.test(plain) ? `${value}${plain}` : plain;
  try {
    const number = valueOf(jsep(whole));
    return number !== undefined && Number.isFinite(number) ? number : undefined;
  } catch {
    return undefined;
  }
}

/** Of numbers, signs and the four operations; undefined for all else that can be written. */
function valueOf(node: Expression): number | undefined {
  if (node.type === 'Literal') return typeof node.value === 'number' ? node.value : undefined;
  if (node.type === 'UnaryExpression') {
    const of = valueOf(node.argument as Expression);
    if (of === undefined || !['+', '-'].includes(node.operator as string)) return undefined;
    return node.operator === '-' ? -of : of;
  }
  if (node.type !== 'BinaryExpression') return undefined;
  const [a, b] = [valueOf(node.left as Expression), valueOf(node.right as Expression)];
  if (a === undefined || b === undefined) return undefined;
  switch (node.operator) {
    case '+':
      return a + b;
    case '-':
      return a - b;
    case '*':
      return a * b;
    case '/':
      return a / b;
    default:
      return undefined;
  }
}

import { useLayoutEffect, useRef, useState } from 'react';

type Functions = Record<string, (...args: never[]) => unknown>;

/**
 * Functions that stay the same for as long as a component lives and do what the newest of their names do: what they are
 * passed to is not rendered again because they were made again. For events; nothing is to be drawn from them.
 */
export function useNewest<T extends Functions>(functions: T): T {
  const newest = useRef(functions);
  useLayoutEffect(() => {
    newest.current = functions;
  });
  const [lasting] = useState(() =>
    Object.fromEntries(
      Object.keys(functions).map((name) => [name, (...args: never[]) => newest.current[name]!(...args)]),
    ),
  );
  return lasting as T;
}

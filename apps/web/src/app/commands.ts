import { useEffect, useRef, useSyncExternalStore } from 'react';

/** Something that can be done from where one is, as the palette names it. */
export interface Command {
  readonly name: string;
  /** The keys that do it, as they are told. */
  readonly keys?: string;
  readonly run: () => void;
}

let commands: readonly Command[] = [];
const listeners = new Set<() => void>();

function change(next: readonly Command[]): void {
  commands = next;
  for (const listener of listeners) listener();
}

/** Offers commands as long as what offers them is shown. What they do is always what it is now. */
export function useCommands(offered: readonly Command[]): void {
  const latest = useRef(offered);
  useEffect(() => {
    latest.current = offered;
  });
  const names = JSON.stringify(offered.map(({ name, keys }) => [name, keys]));
  useEffect(() => {
    const own = (JSON.parse(names) as [string, string | null][]).map(([name, keys], at): Command => ({
      name,
      ...(keys !== null && { keys }),
      run: () => latest.current[at]?.run(),
    }));
    change([...commands, ...own]);
    return () => change(commands.filter((one) => !own.includes(one)));
  }, [names]);
}

/** The commands that are offered now. */
export function useOfferedCommands(): readonly Command[] {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => commands,
  );
}

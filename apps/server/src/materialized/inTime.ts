import { ServerProblem } from '../problem.ts';

/** Waits for the rows of a view to be made for the first time. @throws ServerProblem where that takes longer than the run may */
export async function inTime(making: Promise<void>, name: string, timeMs: number): Promise<void> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, fail) => {
    const detail = `The rows of the view ${name} are being made for the first time, which takes longer than the ${Math.round(timeMs).toLocaleString('en')} ms that this run may. Ask again when they are there.`;
    timer = setTimeout(() => fail(new ServerProblem('/guard-time', detail, { line: 1, reached: timeMs, limit: timeMs })), timeMs);
  });
  await Promise.race([making, late]).finally(() => clearTimeout(timer));
}

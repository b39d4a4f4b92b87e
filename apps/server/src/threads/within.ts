/** Waits for something, but not for ever, and not for what becomes of it. */
export async function within(ms: number, work: Promise<unknown> | undefined): Promise<void> {
  let timer: NodeJS.Timeout | undefined;
  const over = new Promise<void>((resolve) => (timer = Number.isFinite(ms) ? setTimeout(resolve, ms) : undefined));
  await Promise.race([work?.catch(() => undefined), over]);
  clearTimeout(timer);
}

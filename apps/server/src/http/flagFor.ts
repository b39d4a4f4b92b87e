import type { Response } from 'express';
import { CancelFlag } from '../threads/cancelFlag.ts';

/** A flag that is set when whoever asked goes away before the answer. */
export function flagFor(response: Response): CancelFlag {
  const flag = new CancelFlag();
  response.on('close', () => response.writableEnded || flag.cancel());
  return flag;
}

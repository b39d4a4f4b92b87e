import { useCallback } from 'react';
import { useHref } from 'react-router';

/**
 * Tells whether the address is still that of this screen. Another may be on its way while this one stands: what comes late to this one
 * may not take the address back from whoever has asked for that.
 */
export function useStillHere(): () => boolean {
  const here = useHref('.');
  return useCallback(() => window.location.pathname === here, [here]);
}

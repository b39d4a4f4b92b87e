import Box, { type BoxProps } from '@mui/material/Box';

/** What was right for an earlier text: it stays in sight, dimmed, until what stands there now has been answered. */
export function Outdated({ isOutdated, sx, ...props }: BoxProps & { isOutdated: boolean }) {
  return (
    <Box data-outdated={isOutdated || undefined} sx={[{ opacity: isOutdated ? 0.5 : 1 }, ...(Array.isArray(sx) ? sx : [sx])]} {...props} />
  );
}

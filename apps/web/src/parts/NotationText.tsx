import Box from '@mui/material/Box';
import { colouredLine } from './editor/highlight.ts';

/** A line of the notation in the editor's colours, to be read. */
export function NotationText({ line }: { line: string }) {
  return colouredLine(line).map(({ text, className }, i) =>
    className === undefined ? (
      text
    ) : (
      <Box
        key={i}
        component="span"
        sx={(t) =>
          ({
            'zs-stage': { color: t.roles.zest, fontWeight: 700 },
            'zs-word': { color: t.roles.zest, fontWeight: 600 },
            'zs-path': { color: t.roles.path },
            'zs-string': { color: t.roles.text },
            'zs-number': { color: t.roles.number },
            'zs-parameter': { color: t.roles.index },
            'zs-call': { color: t.roles.call, fontWeight: 600 },
            'zs-comment': { color: t.roles.softInk },
          })[className] ?? {}
        }
      >
        {text}
      </Box>
    ),
  );
}

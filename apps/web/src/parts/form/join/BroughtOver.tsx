import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import { descend, describeField, leftOutOf, writeLeftOut, type CheckedStage, type JoinStage } from '@zesty-sieve/core/language';
import { codeFont } from '../../../app/theme.ts';

/** Which of the partner's fields a row gets: what is not brought over is left out by the line after. */
export function BroughtOver({
  checked,
  stage,
  next,
  onNext,
}: {
  checked: CheckedStage;
  stage: JoinStage;
  next: CheckedStage | undefined;
  onNext: (text: string | undefined, replaces: CheckedStage | undefined) => void;
}) {
  const put = descend(checked.after, stage.target.names);
  const partner = stage.kind === 'gatherJoin' ? put?.element : put;
  const fields = [...(partner?.fields ?? [])];
  if (fields.length === 0) return null;
  const names = fields.map(([name]) => name);
  const found = leftOutOf(stage, next?.placed.off ? undefined : next?.placed.stage, names);
  const leftOut = found ?? [];
  const toggle = (name: string) => {
    const out = leftOut.includes(name)
      ? leftOut.filter((one) => one !== name)
      : names.filter((one) => one === name || leftOut.includes(one));
    onNext(writeLeftOut(stage, out), found && next);
  };
  return (
    <Box role="group" aria-label="Fields to bring over" sx={{ pb: 1 }}>
      <Box sx={{ fontSize: 12, color: 'text.secondary', pb: 0.25 }}>
        bring over{' '}
        {leftOut.length === 0
          ? 'all fields of the partner'
          : `${names.length - leftOut.length} of its ${names.length} fields; the line after leaves out the rest`}
      </Box>
      <Box sx={{ columns: '130px', columnGap: 2 }}>
        {fields.map(([name, { info }]) => (
          <Box
            component="label"
            key={name}
            title={describeField(info).detail}
            sx={{ display: 'flex', alignItems: 'center', breakInside: 'avoid', fontFamily: codeFont, fontSize: 12, cursor: 'pointer' }}
          >
            <Checkbox
              size="small"
              checked={!leftOut.includes(name)}
              disabled={leftOut.length === names.length - 1 && !leftOut.includes(name)}
              onChange={() => toggle(name)}
              sx={{ p: 0.25, mr: 0.5 }}
            />
            {name}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useAppDispatch, useAppSelector, useAppStore } from '../../../app/store.ts';
import { later } from '../../../parts/later.tsx';
import { saveAs } from '../../../parts/saveAs.ts';
import { useCopy } from '../../../parts/useCopy.ts';
import { parametersFor } from '../../../state/bench/parameters.ts';
import { opened, tabAdded } from '../../../state/bench/benchSlice.ts';
import { writtenIn } from '../../../state/bench/tabTurns.ts';
import { useBench } from '../../../state/bench/useBench.ts';
import { curlCode, fetchCode } from '../codeOut.ts';
import { useShare } from '../share/useShare.ts';
import { sqlDialects, useCopySql } from '../sql/useCopySql.ts';

const RenamePipelineDialog = later(async () => (await import('../RenamePipelineDialog.tsx')).RenamePipelineDialog);

/** What can be done with the pipeline in front, beside saving it. */
export function PipelineMenu({ onSaveAs, onRemove }: { readonly onSaveAs: () => void; readonly onRemove: () => void }) {
  const { name } = useBench('name');
  const navigate = useNavigate();
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const copy = useCopy();
  const copySql = useCopySql();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const share = useShare();
  const [isRenaming, setRenaming] = useState(false);
  const chosen = (work: () => void) => () => {
    setAnchor(null);
    work();
  };
  const isSql = useAppSelector(({ bench }) => bench.sql !== null);
  const text = () => writtenIn(store.getState().bench);
  const given = () => parametersFor(store.getState().bench.parameters);
  const written = () => (isSql ? { sql: text() } : { pipeline: text() });
  const copies = [
    ['text', text],
    ['a fetch call in TypeScript', () => fetchCode(window.location.origin, written(), given())],
    ['curl', () => curlCode(window.location.origin, written(), given())],
  ] as const;
  const duplicate = () => {
    const { text: own, sql, note, guards, parameters } = store.getState().bench;
    dispatch(opened({ text: own, sql, note, guards, parameters }));
  };
  const exportFile = () => saveAs(`${name ?? (isSql ? 'question' : 'pipeline')}.${isSql ? 'sql' : 'zsieve'}`, 'text/plain', text());
  return (
    <>
      <IconButton
        aria-label="More about this pipeline"
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{ color: 'text.secondary', width: 30, height: 30, fontSize: 18 }}
      >
        ⋯
      </IconButton>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)} slotProps={{ paper: { sx: { maxWidth: 460 } } }}>
        <MenuItem onClick={chosen(() => dispatch(tabAdded()))}>New pipeline</MenuItem>
        <MenuItem onClick={chosen(duplicate)}>Duplicate in a tab of its own</MenuItem>
        <MenuItem onClick={chosen(onSaveAs)}>Save under another name</MenuItem>
        {copies.map(([label, code]) => (
          <MenuItem key={label} onClick={chosen(() => copy(code()))}>
            Copy as {label}
          </MenuItem>
        ))}
        {sqlDialects.map(([label, dialect]) => (
          <MenuItem key={dialect} onClick={chosen(() => copySql(dialect))}>
            Copy as SQL for {label}
          </MenuItem>
        ))}
        <MenuItem onClick={chosen(exportFile)}>Export as a {isSql ? '.sql' : '.zsieve'} file</MenuItem>
        <MenuItem onClick={chosen(() => void share())}>Share as an HTML page</MenuItem>
        {name !== null && (
          <MenuItem onClick={chosen(() => void navigate(`/publish?pipeline=${encodeURIComponent(name)}`))}>Publish {name}</MenuItem>
        )}
        {name !== null && <MenuItem onClick={chosen(() => setRenaming(true))}>Rename {name}</MenuItem>}
        {name !== null && (
          <MenuItem onClick={chosen(onRemove)} sx={{ color: 'error.main' }}>
            Remove {name}
          </MenuItem>
        )}
      </Menu>
      {isRenaming && name !== null && <RenamePipelineDialog name={name} onClose={() => setRenaming(false)} />}
    </>
  );
}

import ContrastIcon from '@mui/icons-material/Contrast';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useContext, useState } from 'react';
import { useCommands } from './commands.ts';
import { AppearanceContext, appearances } from './appearance.ts';

const words = { system: 'As the system', light: 'Light', dark: 'Dark' } as const;

/** Light, dark, or as the system has it; remembered in this browser. */
export function AppearanceMenu() {
  const { chosen, choose } = useContext(AppearanceContext);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  useCommands(appearances.map((one) => ({ name: `Appearance: ${words[one].toLowerCase()}`, run: () => choose(one) })));
  return (
    <>
      <IconButton
        size="small"
        aria-label="Appearance"
        title="Appearance: light or dark"
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{ alignSelf: 'center', ml: 0.5 }}
      >
        <ContrastIcon sx={{ fontSize: 18 }} />
      </IconButton>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {appearances.map((appearance) => (
          <MenuItem
            key={appearance}
            role="menuitemradio"
            aria-checked={chosen === appearance}
            selected={chosen === appearance}
            onClick={() => {
              choose(appearance);
              setAnchor(null);
            }}
            sx={{ fontSize: 13 }}
          >
            {words[appearance]}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

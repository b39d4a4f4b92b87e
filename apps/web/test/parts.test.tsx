/** @jest-environment jsdom */
import { ThemeProvider } from '@mui/material/styles';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { checkPipeline, fieldTree, usualSurface, type GroupStage } from '@zesty-sieve/core/language';
import { useState, type ReactNode } from 'react';
import { themes } from '../src/app/theme.ts';
import { GroupForm } from '../src/parts/form/GroupForm.tsx';
import { Typed } from '../src/parts/form/parts.tsx';
import { JsonView } from '../src/parts/JsonView.tsx';
import { Problem } from '../src/parts/Problem.tsx';

const show = (children: ReactNode) => render(<ThemeProvider theme={themes.light}>{children}</ThemeProvider>);
const user = userEvent.setup();
afterEach(cleanup);

describe('a JSON value', () => {
  test('folds and unfolds; folded, an object is told by its plain fields', async () => {
    show(<JsonView value={{ id: 'h1', name: 'Fluhalp', nights: [1, 2] }} open={1} />);
    expect(screen.getByText(/2 elements/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: /nights/ }));
    expect(screen.queryByText(/2 elements/)).toBeNull();
    await user.click(screen.getAllByRole('button')[0]);
    expect(screen.getByText(/"id": "h1", "name": "Fluhalp", … 3 fields/)).toBeTruthy();
  });

  test('of a long array as much is drawn as is asked for', async () => {
    const { container } = show(<JsonView value={Array.from({ length: 450 }, (_, i) => `n${i}`)} />);
    expect(container.textContent).toContain('"n199"');
    expect(container.textContent).not.toContain('"n200"');
    await user.click(screen.getByRole('button', { name: '250 more' }));
    await user.click(screen.getByRole('button', { name: '50 more' }));
    expect(container.textContent).toContain('"n449"');
    expect(screen.queryByRole('button', { name: /more/ })).toBeNull();
  });
});

test('a text is written when it is sound and left; one that is not is marked and stays in the field', async () => {
  const written: string[] = [];
  show(<Typed label="Key" value="@.a" isSound={(text) => text.startsWith('@')} onChange={(text) => written.push(text)} />);
  const input = screen.getByRole('textbox', { name: 'Key' });
  await user.clear(input);
  await user.type(input, 'b{Enter}');
  expect(written).toEqual([]);
  expect(input.getAttribute('aria-invalid')).toBe('true');
  await user.clear(input);
  await user.type(input, '@.b');
  await user.tab();
  expect(written).toEqual(['@.b']);
  expect(input.getAttribute('aria-invalid')).toBe('false');
});

test('a problem is told as an alert', () => {
  show(<Problem text="There is no collection huts." />);
  expect(screen.getByRole('alert').textContent).toBe('There is no collection huts.');
});

describe('the form of a group', () => {
  const shape = fieldTree([
    { steps: [{ field: 'region' }], info: { types: { text: 9 }, presence: 1, top: [] } },
    { steps: [{ field: 'altitudeM' }], info: { types: { number: 9 }, presence: 1, top: [] } },
  ]);
  const inOneLine = (text: string) => text.replace(/\s+/g, ' ');
  /** The form over a text, which is written as the form has it. */
  function Form({ first, onText }: { first: string; onText: (text: string) => void }) {
    const [text, setText] = useState(first);
    const checked = checkPipeline(usualSurface.parse(`from huts\n${text}`), { shapeOf: () => shape }).stages[1];
    return (
      <GroupForm
        checked={checked}
        stage={checked.placed.stage as GroupStage}
        onText={(next) => {
          setText(next);
          onText(next);
        }}
      />
    );
  }

  test('keys and measures are added, changed and removed, and the text follows', async () => {
    let text = '';
    show(<Form first="group by @.region measure n = count()" onText={(next) => (text = inOneLine(next))} />);
    await user.click(screen.getByRole('button', { name: '+ measure' }));
    expect(text).toBe('group by @.region measure n = count(), sum2 = sum(@.altitudeM)');
    const names = screen.getAllByRole('textbox', { name: 'Name of the measure' });
    await user.clear(names[1]);
    await user.type(names[1], 'metres{Enter}');
    expect(text).toContain('metres = sum(@.altitudeM)');
    await user.type(screen.getAllByRole('textbox', { name: 'Only rows' })[0], '@.altitudeM > 2000');
    await user.tab();
    expect(text).toContain('n = count() where @.altitudeM > 2000');
    await user.click(screen.getAllByRole('button', { name: 'Remove the measure' })[0]);
    expect(text).toBe('group by @.region measure metres = sum(@.altitudeM)');
    await user.click(screen.getByRole('button', { name: '+ key' }));
    expect(text).toBe('group by @.region, @.altitudeM measure metres = sum(@.altitudeM)');
    await user.click(screen.getAllByRole('button', { name: 'Remove the key' })[0]);
    await user.click(screen.getByRole('button', { name: 'Remove the key' }));
    expect(text).toBe('group all measure metres = sum(@.altitudeM)');
  });

  test('another aggregate keeps what it is of, and one of conditions begins with a field', async () => {
    let text = '';
    show(<Form first="group by @.region measure n = count()" onText={(next) => (text = inOneLine(next))} />);
    await user.click(screen.getByRole('combobox', { name: 'Aggregate' }));
    await user.click(screen.getByRole('option', { name: 'avg' }));
    expect(text).toBe('group by @.region measure n = avg(@.altitudeM)');
    await user.click(screen.getByRole('combobox', { name: 'Aggregate' }));
    await user.click(screen.getByRole('option', { name: 'max' }));
    expect(text).toBe('group by @.region measure n = max(@.altitudeM)');
  });
});

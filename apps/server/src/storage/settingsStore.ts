import { settings, type Settings, type settingsChange } from '@zesty-sieve/contract';
import { defaultGuards } from '@zesty-sieve/core';
import type { z } from 'zod';
import type { Database } from './database.ts';

export type SettingsChange = z.output<typeof settingsChange>;

const usual: Settings = { guards: defaultGuards, runsKept: 2_000 };

/** The settings; what was never set is as usual. */
export async function readSettings(database: Database): Promise<Settings> {
  const rows = await database.all<{ name: string; value: string }>('SELECT name, value FROM settings');
  const set = Object.fromEntries(rows.map(({ name, value }) => [name, JSON.parse(value) as unknown])) as Partial<Settings>;
  return settings.parse({ ...usual, ...set, guards: { ...usual.guards, ...set.guards } });
}

export async function writeSettings(database: Database, { guards, runsKept }: SettingsChange): Promise<Settings> {
  const now = await readSettings(database);
  const next: Settings = { guards: { ...now.guards, ...guards }, runsKept: runsKept ?? now.runsKept };
  for (const [name, value] of Object.entries(next))
    await database.run('INSERT INTO settings (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value', [
      name,
      JSON.stringify(value),
    ]);
  return next;
}

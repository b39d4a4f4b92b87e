/** The roles of colour; nothing else in the interface names a colour. */
export interface Roles {
  readonly ground: string;
  readonly form: string;
  readonly surface: string;
  readonly ink: string;
  readonly softInk: string;
  readonly line: string;
  readonly zest: string;
  readonly flow: string;
  readonly flowStrong: string;
  readonly flowSoft: string;
  readonly index: string;
  readonly scan: string;
  readonly memory: string;
  readonly join: string;
  readonly other: string;
  readonly quiet: string;
  readonly path: string;
  readonly text: string;
  readonly number: string;
}
declare module '@mui/material/styles' {
  interface Theme {
    readonly roles: Roles;
  }
  interface ThemeOptions {
    roles?: Roles;
  }
}
export declare const codeFont = '"JetBrains Mono Variable", ui-monospace, monospace';
export declare const sansFont = '"Instrument Sans Variable", system-ui, sans-serif';
export declare const theme: import('@mui/material/styles').Theme;
export declare const veil: (colour: string, share: number) => string;

import { screensOf } from '../../api/database.ts';

/** Goes to another database: its screens are loaded anew, with the tabs that were left there. */
export const goTo = (name: string, isDefault: boolean): void => window.location.assign(`${screensOf(isDefault ? null : name)}/bench`);

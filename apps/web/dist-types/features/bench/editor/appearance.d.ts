import { type Roles } from '../../../app/theme.ts';
/** How the editor and its margin look, in the roles of the theme. */
export declare function appearance(roles: Roles): import('@codemirror/state').Extension;

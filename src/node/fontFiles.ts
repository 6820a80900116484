import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type { FontFiles } from '../core/formats/paper/fonts.ts';

const { resolve } = createRequire(import.meta.url);

/** The application's font as its package has it. */
export const fontFiles: FontFiles = (part, weight) =>
	readFile(resolve(`@fontsource/ibm-plex-sans/files/ibm-plex-sans-${part}-${weight}-normal.woff`));

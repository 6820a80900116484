#!/usr/bin/env node
import { parseArgs } from 'node:util';
import { FORMATS } from '../core/formats/format.ts';
import { messageOf, ZygasterError } from '../core/errors.ts';
import { importFiles } from './import.ts';
import { runProject } from './run.ts';

const USAGE = `Usage:
  zygaster run PROJECT.json --out DIR [--formats ${FORMATS.join(',')}] [--units mm|m|ft] [--schedule NAME] [--stock MM,MM] [--option FORMAT.NAME=VALUE] [--only FACE] [--compare OLD.json]
      make the schedules, the model and the project file, or some of them; lengths of the schedules in these units;
      one schedule alone; lengths that bars are bought in; an option
      of a file, such as ifc.grid=true; some of the faces, by name or mark; and what has changed since an earlier state of the project
  zygaster import FILE... --out PROJECT.json [--unit mm|cm|m|in|ft] [--crease DEGREES]
      make a project with the masses of STEP, IGES, BREP, IFC, OBJ, STL, GLB, glTF or PLY files, each where it stands

Both print one JSON summary on standard output.`;

/** Exit codes: 0 done, 1 the document or the files are at fault, 2 the command is. */
async function main(args: string[]): Promise<number> {
	let parsed;
	try {
		parsed = parseArgs({
			args,
			allowPositionals: true,
			options: {
				out: { type: 'string' },
				formats: { type: 'string' },
				units: { type: 'string' },
				schedule: { type: 'string' },
				stock: { type: 'string' },
				option: { type: 'string', multiple: true },
				only: { type: 'string', multiple: true },
				compare: { type: 'string' },
				unit: { type: 'string' },
				crease: { type: 'string' },
				help: { type: 'boolean', short: 'h' }
			}
		});
	} catch (cause) {
		return fail(2, `${messageOf(cause)}\n\n${USAGE}`);
	}
	const { positionals, values } = parsed;
	if (values.help) {
		console.log(USAGE);
		return 0;
	}
	const [command, file, ...more] = positionals;
	const { out, formats, units, schedule, stock, option, only, compare, unit, crease } = values;
	if ((command !== 'run' && command !== 'import') || !file || (command === 'run' && more.length) || !out)
		return fail(2, USAGE);
	try {
		const summary =
			command === 'run'
				? await runProject(file, { out, formats, units, schedule, stock, option, only, compare })
				: await importFiles([file, ...more], { out, unit, crease });
		process.stdout.write(JSON.stringify(summary, null, 2) + '\n');
		return 0;
	} catch (cause) {
		if (cause instanceof ZygasterError) return fail(1, cause.message);
		throw cause;
	}
}

function fail(code: number, message: string): number {
	console.error(message);
	return code;
}

process.exitCode = await main(process.argv.slice(2));

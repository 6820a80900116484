import { createRequire } from 'node:module';
import type { IfcPort } from '../core/formats/ifc/readIfc.ts';
import type { ReaderPorts } from '../core/formats/modelFiles/readModelFile.ts';
import type { SolidPort } from '../core/formats/step/readSolid.ts';

const silent = () => undefined;

// Both packages look for their WASM beside themselves.
const load = createRequire(import.meta.url);

/** The readers' packages under Node. */
export const NODE_READERS: ReaderPorts = {
	// What the package prints would stand among our own output.
	solid: () => (load('occt-import-js') as (options: object) => Promise<SolidPort>)({ print: silent, printErr: silent }),
	ifc: async () => {
		const { IfcAPI, LogLevel } = load('web-ifc') as {
			IfcAPI: new () => IfcPort & { Init(): Promise<void>; SetLogLevel(level: number): void };
			LogLevel: { LOG_LEVEL_OFF: number };
		};
		const ifc = new IfcAPI();
		await ifc.Init();
		ifc.SetLogLevel(LogLevel.LOG_LEVEL_OFF);
		return ifc;
	}
};

declare module 'occt-import-js' {
	/** Loads the package's WASM from where `locateFile` says. */
	export default function load(options: object): Promise<import('../../core/formats/step/readSolid.ts').SolidPort>;
}

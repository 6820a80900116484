import { init } from 'license-checker-rseidelsohn';

/** Licences that a dependency may have; LGPL as unmodified packages, OFL for fonts, the rest is data. */
const ALLOWED =
	/^(MIT(-0)?|BSD|0BSD|ISC|Apache|MPL|LGPL|Python-2\.0|BSL-1\.0|BlueOak|CC0|CC-BY-[34]\.0|Unlicense|WTFPL|OFL)/i;

init({ start: process.cwd(), excludePrivatePackages: true }, (error, packages) => {
	if (error) throw error;
	const refused = Object.entries(packages).filter(([, { licenses }]) => {
		const offered = [licenses ?? 'none'].flat().flatMap((l) => l.replace(/[()*]/g, '').split(' OR '));
		return !offered.some((licence) => licence.split(' AND ').every((l) => ALLOWED.test(l.trim())));
	});
	for (const [name, { licenses }] of refused) console.error(`${name}: ${String(licenses)}`);
	console.log(`${Object.keys(packages).length} packages, ${refused.length} with a licence not allowed`);
	process.exitCode = refused.length ? 1 : 0;
});

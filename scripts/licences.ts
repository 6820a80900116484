// Checks the licences of all packages, and that docs/third-party.md names those that ship: `--write` writes it anew.
import { readFileSync, writeFileSync } from 'node:fs';
import { init, type ModuleInfos } from 'license-checker-rseidelsohn';

/** Licences that a dependency may have; LGPL and MPL as unmodified packages, OFL for fonts, the rest is data. */
const ALLOWED =
	/^(MIT(-0)?|BSD|0BSD|ISC|Apache|MPL|LGPL|Python-2\.0|BSL-1\.0|BlueOak|CC0|CC-BY-[34]\.0|Zlib|Unlicense|WTFPL|OFL)/i;
const NOTICE = 'docs/third-party.md';
/** Packages that hold one machine's binaries differ from machine to machine. */
const BINARY = /[-/](linux|darwin|win32|freebsd|openbsd|netbsd|sunos|aix|android|openharmony|wasm32)[-\w]*@/;

const packagesOf = (production: boolean) =>
	new Promise<ModuleInfos>((resolve, reject) =>
		init({ start: process.cwd(), excludePrivatePackages: true, production }, (error, packages) =>
			error ? reject(error) : resolve(packages)
		)
	);

const licenceOf = ({ licenses }: ModuleInfos[string]) => [licenses ?? 'none'].flat().join(' OR ').replace(/[()*]/g, '');
const isAllowed = (licence: string) =>
	licence.split(' OR ').some((choice) => choice.split(' AND ').every((l) => ALLOWED.test(l.trim())));

/** What ships, with its licences: those first that ask for more than to be named. */
function notice(packages: ModuleInfos): string {
	const rows = Object.entries(packages)
		.filter(([name]) => !BINARY.test(name))
		.map(([name, info]) => ({ name: name.replace(/@[^@]*$/, ''), licence: licenceOf(info) }))
		.sort((a, b) => a.name.localeCompare(b.name, 'en'));
	const unique = [...new Map(rows.map((row) => [`${row.name} ${row.licence}`, row])).values()];
	const list = (wanted: (licence: string) => boolean) =>
		unique
			.filter((row) => wanted(row.licence))
			.map(({ name, licence }) => `- ${name}: ${licence}`)
			.join('\n');
	const shared = (licence: string) => /LGPL|MPL/i.test(licence) && !/\bOR\b/.test(licence);
	return `# Third-party packages

Made by \`npm run licences\` from the packages that ship; \`npm test\` checks that it is up to date.

## Packages whose source must stay available (LGPL, MPL)

They are used unmodified, as packages of their own, so that each can be replaced by another version of itself. Their
source is in the package of the same name.

${list(shared)}

## All others

${list((licence) => !shared(licence))}
`;
}

const all = await packagesOf(false);
const refused = Object.entries(all).filter(([, info]) => !isAllowed(licenceOf(info)));
for (const [name, info] of refused) console.error(`${name}: ${licenceOf(info)}`);
console.log(`${Object.keys(all).length} packages, ${refused.length} with a licence not allowed`);
const wanted = notice(await packagesOf(true));
if (process.argv.includes('--write')) writeFileSync(NOTICE, wanted);
else if (readFileSync(NOTICE, 'utf8') !== wanted) {
	console.error(`${NOTICE} does not name what ships now; right would be to run npm run licences.`);
	process.exitCode = 1;
}
if (refused.length) process.exitCode = 1;

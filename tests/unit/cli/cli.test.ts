import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import type { RunSummary } from '../../../src/cli/run.ts';

describe('the command line', function () {
	this.timeout(60_000);
	let out: string;
	beforeEach(() => (out = mkdtempSync(join(tmpdir(), 'zygaster-cli-'))));
	afterEach(() => rmSync(out, { recursive: true }));

	const zygaster = (...args: string[]) => {
		const { status, stdout, stderr } = spawnSync('npm', ['run', '-s', 'zygaster', '--', ...args], { encoding: 'utf8' });
		return { status, stdout, stderr };
	};

	it('makes schedule, model and project of the demo and prints one summary', () => {
		const { status, stdout } = zygaster('run', 'examples/sallow-reach.json', '--out', out);
		expect(status).equal(0);
		const summary = JSON.parse(stdout) as RunSummary;
		expect(summary.faces[0]).deep.include({ key: 'canopy/skin', panels: 2244, cells: { whole: 2163, cut: 81, lost: 20 } });
		expect(summary.faces[2]).deep.include({ key: 'lantern/skin', panels: 348, cells: { whole: 27 * 12, cut: 24, lost: 0 } });
		expect(summary.parts.map((p) => [p.part, p.count])).deep.equal([['frame', 3203], ['reveal', 3203], ['pane', 3203]]);
		expect(summary.warnings).deep.equal([]);
		for (const { name, bytes } of summary.files) expect(readFileSync(join(out, name)).length).equal(bytes);
		expect(readFileSync(join(out, 'project.json'), 'utf8')).equal(readFileSync('examples/sallow-reach.json', 'utf8'));
		expect(readFileSync(join(out, 'panels.csv'), 'utf8').split('\r\n').length).equal(3205);
	});

	it('refuses a bad document on standard error, with an exit code, and writes nothing', () => {
		const file = join(out, 'bad.json');
		writeFileSync(file, readFileSync('examples/sallow-reach.json', 'utf8').replace('"count": 24', '"count": -3'));
		const { status, stdout, stderr } = zygaster('run', file, '--out', join(out, 'files'));
		expect([status, stdout]).deep.equal([1, '']);
		expect(stderr).contains('masses › Canopy › faces › Roof skin › settingOut › across › spacing › count: must be at least 1');
		expect(existsSync(join(out, 'files'))).equal(false);
	});

	it('tells a missing file, and how it is used', () => {
		expect(zygaster('run', join(out, 'none.json'), '--out', out)).deep.include({ status: 1, stdout: '' });
		const { status, stderr } = zygaster('run');
		expect(status).equal(2);
		expect(stderr).contains('zygaster run PROJECT.json --out DIR');
		expect(zygaster('--help').stdout).contains('Usage');
	});
});

import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import type { RunSummary } from '../../../src/cli/run.ts';
import { writeJson } from '../../../src/core/formats/json/writeJson.ts';
import { addRule, demoWith, setCount } from '../demo.ts';

describe('the command line', () => {
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
		expect(summary.faces[0]).deep.include({
			key: 'canopy/skin',
			// All but the 36 over the kiosk.
			panels: 2244 - 36,
			cells: { whole: 2160, cut: 84, lost: 23 }
		});
		expect(summary.faces[2]).deep.include({
			key: 'lantern/skin',
			panels: 348,
			cells: { whole: 27 * 12, cut: 24, lost: 0 }
		});
		const count = (kit: string, part: string) =>
			summary.parts.filter((p) => p.kit === kit && p.part === part).reduce((n, p) => n + p.count, 0);
		const rules = Object.fromEntries(summary.rules.map((r) => [r.id, r.hosts]));
		const byHand = 16;
		expect(count('Framed pane', 'pane')).equal(rules['rule-1']! + rules['rule-2']! - byHand + 121);
		expect(count('Closing plate', 'pane')).equal(84);
		expect(summary.rules.find((r) => r.id === 'canopy-kiosk')).deep.equal({
			id: 'canopy-kiosk',
			name: 'in zone Kiosk light',
			set: 'panels',
			hosts: 36,
			kit: null
		});
		// Every rule takes something, and nothing is left over.
		expect(summary.rules.filter((r) => r.hosts === 0)).deep.equal([]);
		expect(Object.values(summary.unassigned).every((n) => n === 0)).true;
		expect([summary.overrides, summary.clamped]).deep.equal([{ used: byHand, waiting: 0 }, 0]);
		expect(count('Lantern shingle', 'pane')).equal(348);
		// A house of 6 by 4 fields, 3 high: what lies on its corners and around its roof once; by hand.
		const walls = 2 * (6 * 4 + 7 * 3 + 4 * 4 + 5 * 3) - 2 * (4 * 3 + 6 + 4);
		expect(['pilot-posts', 'pilot-bars', 'pilot-nodes'].map((id) => rules[id])).deep.equal([
			4 * 3 + 2 * (6 + 4),
			walls + 5 * 4 + 3 * 6,
			4 * 2 * (6 + 4) + 5 * 3
		]);
		// Inside a diamond stands a cap, none in the triangles at both ends.
		expect(count('Lantern shingle', 'rightCap')).equal(27 * 12);
		expect(count('Perforated screen', 'squaresScreen')).equal(72);
		expect(count('Perforated screen', 'roundScreen')).equal(0);
		expect(new Set(summary.parts.map((p) => p.kit)).size).equal(20);
		expect(summary.parts.every((p) => p.massKg > 0 && p.count > 0)).true;
		expect(summary.warnings).deep.equal([]);
		for (const { name, bytes } of summary.files) expect(readFileSync(join(out, name)).length).equal(bytes);
		expect(readFileSync(join(out, 'project.json'), 'utf8')).equal(readFileSync('examples/sallow-reach.json', 'utf8'));
		expect(readFileSync(join(out, 'panels.csv'), 'utf8').split('\r\n').length).equal(3288 - 36 - 8);
	});

	it('makes only the files asked for, in the units asked for, and tells where its time went', () => {
		const file = join(out, 'canopy.json');
		writeFileSync(file, writeJson(demoWith(40, 60)));
		const { status, stdout } = zygaster('run', file, '--out', out, '--formats', 'csv', '--units', 'ft');
		expect(status).equal(0);
		const { files, timesMs, stageTimesMs } = JSON.parse(stdout) as RunSummary;
		expect(files.map((f) => f.name)).deep.equal(['panels.csv']);
		const told =
			Object.values(stageTimesMs).reduce((a, b) => a + b, 0) +
			Object.entries(timesMs).reduce((sum, [name, ms]) => (name === 'total' ? sum : sum + ms), 0);
		// What is not named is little: the way from one to the next.
		expect(told / timesMs.total).within(0.8, 1.001);
		expect([timesMs.csv > 0, timesMs.glb]).deep.equal([true, 0]);
		const [head, first] = readFileSync(join(out, 'panels.csv'), 'utf8')
			.split('\r\n')
			.map((line) => line.split(',')) as [string[], string[]];
		expect(head.slice(3)).deep.equal([
			'Row',
			'Column',
			'Width ft',
			'Height ft',
			'Area ft2',
			'Warp ft',
			'Share left',
			'Frame length ft',
			'Weight kg'
		]);
		const metric = zygaster('run', file, '--out', out, '--formats', 'csv,json');
		expect((JSON.parse(metric.stdout) as RunSummary).files.map((f) => f.name)).deep.equal([
			'project.json',
			'panels.csv'
		]);
		const mm = readFileSync(join(out, 'panels.csv'), 'utf8').split('\r\n')[1]!.split(',');
		expect(Number(first[5]) * 304.8).closeTo(Number(mm[5]), 0.06);
		expect(Number(first[7]) * 0.09290304).closeTo(Number(mm[7]), 1e-4);
		expect(zygaster('run', file, '--out', out, '--units', 'yards').stderr).contains(
			'--units has “yards”; right would be mm, m, ft.'
		);
	});

	it('makes files of some faces, with the options that are given or that the project has chosen', () => {
		const file = join(out, 'hall.json');
		const project = demoWith(4, 3);
		const [mass] = project.masses;
		const second = structuredClone(mass!);
		Object.assign(second, { id: 'second', name: 'Second' });
		second.faces.forEach((face) => Object.assign(face, { name: 'Other', mark: 'Z9' }));
		project.masses.push(second);
		addRule(project, { id: 'more', face: 'second/skin', kit: 'framed-pane', values: {} });
		project.handover.options = { schedules: { units: 'm' }, ifc: { openings: false } };
		writeFileSync(file, writeJson(project));
		const only = zygaster(
			'run',
			file,
			'--out',
			out,
			'--formats',
			'csv,ifc',
			'--only',
			'Z9',
			'--option',
			'ifc.grid=true'
		);
		expect(only.status).equal(0);
		const { faces } = JSON.parse(only.stdout) as RunSummary;
		expect(faces.map((f) => f.key)).deep.equal(['second/skin']);
		const [head, ...rows] = readFileSync(join(out, 'panels.csv'), 'utf8').trim().split('\r\n');
		expect(head).contains('Width m');
		expect(rows.every((row) => row.startsWith('Z9-'))).equal(true);
		expect(readFileSync(join(out, 'model.ifc'), 'utf8')).contains('IFCANNOTATION');
		expect(zygaster('run', file, '--out', out, '--only', 'X1').stderr).contains('--only has “X1”; right would be');
		expect(zygaster('run', file, '--out', out, '--option', 'grid=true').stderr).contains(
			'right would be FORMAT.NAME=VALUE'
		);
		const wrong = zygaster('run', file, '--out', out, '--formats', 'ifc', '--option', 'ifc.grid=7');
		expect([wrong.status, wrong.stderr]).deep.equal([
			1,
			'The options of building model are not right at grid: Invalid input: expected boolean, received number.\n'
		]);
	});

	it('makes one schedule alone, and tells what has changed since an earlier state', () => {
		const [now, then] = [join(out, 'now.json'), join(out, 'then.json')];
		writeFileSync(then, writeJson(demoWith(4, 3)));
		const project = demoWith(4, 3);
		setCount(project, 0, 'up', 4);
		writeFileSync(now, writeJson(project));
		const { status, stdout } = zygaster('run', now, '--out', out, '--schedule', 'corners', '--compare', then);
		expect(status).equal(0);
		const summary = JSON.parse(stdout) as RunSummary;
		expect(summary.files.map((f) => f.name)).deep.equal(['corners.csv', 'changes.csv']);
		const { added, gone, same, changed, moved, weightKg } = summary.changes!;
		// Another row of four framed panes: frame, reveal and pane each.
		expect([added, gone]).deep.equal([12, 0]);
		expect(same + changed + moved).equal(36);
		const weight = summary.parts.reduce((sum, p) => sum + p.massKg, 0);
		expect(weightKg.after).closeTo(weight, 1e-6);
		const rows = readFileSync(join(out, 'changes.csv'), 'utf8').trim().split('\r\n');
		expect(rows.filter((row) => row.startsWith('added,'))).lengthOf(12);
		const own = zygaster('run', now, '--out', out, '--schedule', 'Materials and cost');
		expect((JSON.parse(own.stdout) as RunSummary).files.map((f) => f.name)).deep.equal(['schedule-materials.csv']);
		const [heads, ...lines] = readFileSync(join(out, 'schedule-materials.csv'), 'utf8').trim().split('\r\n');
		expect(heads).equal('Material,Role,Rows,Bar length mm,Area m2,Weight kg,Cost EUR');
		expect(lines.reduce((sum, line) => sum + Number(line.split(',')[2]), 0)).equal(48);
		const wrong = zygaster('run', now, '--out', out, '--schedule', 'nothing');
		expect([wrong.status, wrong.stderr]).deep.equal([
			1,
			'--schedule has “nothing”; right would be panels, edges, nodes, paths, bays, parts, corners, cutlist, quantities, Panels by storey, Bars, Louver blades, Cut panels, Materials and cost.\n'
		]);
	});

	it('refuses a bad document on standard error, with an exit code, and writes nothing', () => {
		const file = join(out, 'bad.json');
		writeFileSync(file, readFileSync('examples/sallow-reach.json', 'utf8').replace('"count": 24', '"count": -3'));
		const { status, stdout, stderr } = zygaster('run', file, '--out', join(out, 'files'));
		expect([status, stdout]).deep.equal([1, '']);
		expect(stderr).contains('Canopy › Roof skin, across, count: must be at least 1');
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

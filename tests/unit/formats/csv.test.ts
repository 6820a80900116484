import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { ByteWriter } from '../../../src/core/formats/byteWriter.ts';
import { collect } from '../../../src/core/formats/sink.ts';
import { demoProject, run } from '../demo.ts';
import { fileOf, tableRows } from '../schedules.ts';

const decode = (bytes: Uint8Array) => new TextDecoder('utf-8', { fatal: true }).decode(bytes);

/** What is written, as text. */
const written = (write: (out: ByteWriter) => void) =>
	decode(
		collect((sink) => {
			const out = new ByteWriter(sink);
			write(out);
			out.finish();
		})
	);

describe('writing bytes', () => {
	it('prints numbers as exact decimal arithmetic rounds them', () => {
		fc.assert(
			fc.property(fc.integer({ min: -1e11, max: 1e11 }), fc.integer({ min: 0, max: 4 }), (n, decimals) => {
				const digits = String(Math.abs(n)).padStart(decimals + 1, '0');
				const split = digits.length - decimals;
				const text = decimals ? `${digits.slice(0, split)}.${digits.slice(split)}` : digits;
				expect(written((out) => out.fixed(n / 10 ** decimals, decimals))).equal(n < 0 ? `-${text}` : text);
			}),
			{ numRuns: 2000 }
		);
	});

	it('rounds halves up, to the digit that engines round to, on both sides of what fits in 31 bits', () => {
		const near = fc.integer({ min: -3, max: 3 }).map((k) => 2 ** 31 + k / 2);
		const half = fc.integer({ min: -9999, max: 9999 }).map((n) => n + 0.5);
		const any = fc.double({ min: -1e9, max: 1e9, noNaN: true });
		fc.assert(
			fc.property(fc.oneof(near, half, any), fc.integer({ min: 0, max: 6 }), (x, decimals) => {
				const scaled = Math.round(Math.abs(x) * 10 ** decimals);
				const digits = BigInt(scaled)
					.toString()
					.padStart(decimals + 1, '0');
				const split = digits.length - decimals;
				const text = decimals ? `${digits.slice(0, split)}.${digits.slice(split)}` : digits;
				expect(written((out) => out.fixed(x, decimals))).equal(x < 0 && scaled > 0 ? `-${text}` : text);
			}),
			{ numRuns: 3000 }
		);
	});

	it('prints whole numbers of any size, padded, over the ends of its pieces', () => {
		let text = '';
		const out = new ByteWriter((bytes) => (text += new TextDecoder().decode(bytes)));
		let wanted = '';
		for (let k = 0; k < 200_000; k++) {
			const value = k % 7 === 0 ? k * 1e9 : k;
			out.whole(value, 1 + (k % 4));
			out.ascii(32);
			wanted += `${String(value).padStart(1 + (k % 4), '0')} `;
		}
		out.finish();
		expect(text === wanted).equal(true);
	});

	it('never prints a minus before a zero, nor anything for no number', () => {
		const zeros = written((out) => {
			for (const x of [-0, -0.004, NaN, 0.005]) out.fixed(x, 2);
		});
		expect(zeros).equal('0.000.000.01');
	});

	it('writes any text as UTF-8 and hands it on piece after piece', () => {
		fc.assert(
			fc.property(fc.array(fc.string({ unit: 'grapheme' }), { maxLength: 50 }), (texts) => {
				expect(written((out) => texts.forEach((t) => out.text(t)))).equal(texts.join(''));
			})
		);
		const long = written((out) => {
			for (let k = 0; k < 30_000; k++) out.text('naïve 😀');
		});
		expect(long).equal('naïve 😀'.repeat(30_000));
	});
});

describe('the schedule as CSV (RFC 4180, read back by package csv-parse)', () => {
	it('holds every panel with its figures and units', async () => {
		const project = demoProject();
		const model = await run(project);
		const schedule = tableRows(model);
		const rows = parse<Record<string, string>>(Buffer.from(await fileOf(project, model, 'csv')), {
			columns: true,
			record_delimiter: '\r\n'
		});
		expect(rows.length).equal(schedule.count);
		rows.forEach((row, r) => {
			expect(row.Mark).equal(schedule.marks[r]);
			expect(Number(row['Width mm'])).closeTo(schedule.columns.width![r]!, 0.0501);
			expect(Number(row['Area m2'])).closeTo(schedule.columns.area![r]! / 1e6, 0.000051);
			expect(Number(row['Weight kg'])).closeTo(schedule.columns.weight![r]!, 0.00501);
		});
		expect(new Set(rows.map((r) => r.Mark)).size).equal(rows.length);
	});

	it('quotes names with commas, quotes and line ends', async () => {
		const project = demoProject();
		project.kits.find((k) => k.id === 'framed-pane')!.name = 'Pane, "deep"\nand façade';
		const bytes = await fileOf(project, await run(project), 'csv');
		const [row] = parse<Record<string, string>>(Buffer.from(bytes), {
			columns: true,
			record_delimiter: '\r\n'
		});
		expect(row!.Kit).equal('Pane, "deep"\nand façade');
	});
});

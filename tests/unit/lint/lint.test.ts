import { expect } from 'chai';
import { ESLint } from 'eslint';

describe('the lint', () => {
	const eslint = new ESLint({ ignore: false });

	it('finds files that import each other in a circle', async () => {
		const [report] = await eslint.lintFiles(['tests/unit/lint/circle/one.ts']);
		expect(report!.messages.map((m) => m.ruleId)).deep.equal(['import-x/no-cycle']);
	});

	it('refuses functions that engines round in their own way, in the core alone', async () => {
		const text = 'export const f = (x: number) => Math.sin(x) ** 2;\n';
		const rules = async (filePath: string) =>
			(await eslint.lintText(text, { filePath }))[0]!.messages.map((m) => m.ruleId).sort();
		expect(await rules('src/core/arrays.ts')).deep.equal(['no-restricted-properties', 'no-restricted-syntax']);
		expect(await rules('src/core/elementary/sine.ts')).deep.equal(['no-restricted-properties', 'no-restricted-syntax']);
		expect(await rules('src/lib/stage/flatPainter.ts')).deep.equal([]);
	});

	it('refuses tolerances of the core that stand elsewhere than among the others', async () => {
		const text = 'export const SMALL = 1e-9;\n';
		const rules = async (filePath: string) =>
			(await eslint.lintText(text, { filePath }))[0]!.messages.map((m) => m.ruleId);
		expect(await rules('src/core/tiling/cells.ts')).deep.equal(['no-restricted-syntax']);
		expect(await rules('src/core/tolerances.ts')).deep.equal([]);
	});
});

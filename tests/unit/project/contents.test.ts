import { createHash } from 'node:crypto';
import { expect } from 'chai';
import fc from 'fast-check';
import {
	contentNameOf,
	contentOf,
	dropContent,
	float64sOf,
	hasContent,
	keepContent,
	takeContent
} from '../../../src/core/content.ts';
import { writeJson } from '../../../src/core/formats/json/writeJson.ts';
import { kitSchema } from '../../../src/core/kit/schema.ts';
import { contentNames } from '../../../src/core/project/contents.ts';
import { packKit, readKit, unpackKit, writeKit } from '../../../src/core/project/kitFile.ts';
import { checkDocument, readProject } from '../../../src/core/project/read.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { emptyProject } from '../../../src/core/project/starter.ts';
import { run } from '../demo.ts';
import { asVersion5, projectOfMeshes } from '../meshProject.ts';

describe('large things beside the document', () => {
	it('are named by the SHA-256 of their bytes, as Node works it out (property)', () =>
		fc.assert(
			fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
				expect(contentNameOf(bytes)).equal(`sha256:${createHash('sha256').update(bytes).digest('hex')}`);
			})
		));

	it('are refused under another name, and told where they are missing', () => {
		const name = keepContent(Uint8Array.of(1, 2, 3));
		dropContent([name]);
		expect(() => takeContent(name, Uint8Array.of(1, 2, 4))).throw('is something else');
		expect(hasContent(name)).to.be.false;
		expect(() => contentOf(name)).throw('bring the file in again');
		takeContent(name, Uint8Array.of(1, 2, 3));
		expect([...contentOf(name)]).deep.equal([1, 2, 3]);
	});

	it('are packed into the file of a project, and come out of it as they were', () => {
		const project = projectOfMeshes();
		const names = contentNames(project);
		expect(names.length).equal(3);
		const points = (p: Project) => {
			const { shape } = p.masses[0]!;
			return shape.kind === 'imported' ? [...float64sOf(shape.faces[0]!.points)] : [];
		};
		const before = points(project);
		const text = writeJson(project);
		dropContent(names);
		const back = readProject(text);
		expect(back).deep.equal(project);
		expect(points(back)).deep.equal(before);
		expect(writeJson(back)).equal(text);
		// The document itself is small.
		expect(JSON.stringify(project)).not.contain(text.slice(-200, -100));
	});

	it('are refused in a file where they are not what their name says', () => {
		const project = projectOfMeshes(3100);
		const raw = JSON.parse(writeJson(project)) as { contents: Record<string, string> };
		const [name] = Object.keys(raw.contents);
		dropContent(contentNames(project));
		raw.contents[name!] = 'AAAA';
		expect(() => checkDocument(raw)).throw('is something else');
		raw.contents[name!] = 'no base64!';
		expect(() => checkDocument(raw)).throw('this is no base64');
	});

	it('come out of documents of version 5, which held them', async () => {
		const project = projectOfMeshes(3200);
		const older = asVersion5(project);
		const cells = (await run(project)).faces[0]!.cells.count;
		dropContent(contentNames(project));
		const read = checkDocument(JSON.parse(JSON.stringify(older)));
		expect(read).deep.equal(project);
		expect((await run(read)).faces[0]!.cells.count).equal(cells);
	});

	it('that are missing leave their face out with words, and the rest standing', async () => {
		const project = projectOfMeshes(3300);
		dropContent(contentNames(project));
		const { faces, warnings } = await run(project);
		expect(faces.length).equal(0);
		expect(warnings[0]!.message).contains('bring the file in again');
	});

	it('go along with kits, in their files', () => {
		const project = projectOfMeshes(3400);
		const kit = project.kits[0]!;
		const from = { lower: 'corners', upper: 'raised' };
		kit.steps = kitSchema.parse({
			...kit,
			steps: [
				{ kind: 'outline', name: 'corners' },
				{ kind: 'lift', name: 'raised', of: 'corners', distance: 300 },
				{ kind: 'module', name: 'seat', role: 'panel', material: project.materials[0]!.id, file: 'chair', ...from }
			]
		}).steps;
		const text = writeKit(project, kit);
		dropContent(contentNames(project));
		const target = emptyProject('Other');
		target.kits = [];
		unpackKit(target, readKit(text));
		expect(target.modules).deep.equal(project.modules);
		expect(packKit(target, target.kits[0]!).modules).deep.equal(readKit(text).modules);
	});
});

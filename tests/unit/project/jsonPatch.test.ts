import { expect } from 'chai';
import fc from 'fast-check';
import { applyPatch as judge } from 'rfc6902';
import { applyInPlace, diff, type Operation, type Patch } from '../../../src/core/project/jsonPatch.ts';
import { diffProjects } from '../../../src/core/project/diff.ts';
import { applyPatch } from '../../../src/core/project/patch.ts';
import { demoProject, shippedDemo } from '../demo.ts';

const clone = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const apply = (document: unknown, patch: unknown) => applyInPlace(clone(document), patch as Patch);

describe('patches', () => {
	// The examples of RFC 6902, appendix A, by their numbers.
	for (const [name, document, patch, result] of [
		['A.1', { foo: 'bar' }, [{ op: 'add', path: '/baz', value: 'qux' }], { baz: 'qux', foo: 'bar' }],
		['A.2', { foo: ['bar', 'baz'] }, [{ op: 'add', path: '/foo/1', value: 'qux' }], { foo: ['bar', 'qux', 'baz'] }],
		['A.3', { baz: 'qux', foo: 'bar' }, [{ op: 'remove', path: '/baz' }], { foo: 'bar' }],
		['A.4', { foo: ['bar', 'qux', 'baz'] }, [{ op: 'remove', path: '/foo/1' }], { foo: ['bar', 'baz'] }],
		['A.5', { baz: 'qux', foo: 'bar' }, [{ op: 'replace', path: '/baz', value: 'boo' }], { baz: 'boo', foo: 'bar' }],
		[
			'A.6',
			{ foo: { bar: 'baz', waldo: 'fred' }, qux: { corge: 'grault' } },
			[{ op: 'move', from: '/foo/waldo', path: '/qux/thud' }],
			{ foo: { bar: 'baz' }, qux: { corge: 'grault', thud: 'fred' } }
		],
		[
			'A.7',
			{ foo: ['all', 'grass', 'cows', 'eat'] },
			[{ op: 'move', from: '/foo/1', path: '/foo/3' }],
			{ foo: ['all', 'cows', 'eat', 'grass'] }
		],
		[
			'A.8',
			{ baz: 'qux', foo: ['a', 2, 'c'] },
			[
				{ op: 'test', path: '/baz', value: 'qux' },
				{ op: 'test', path: '/foo/1', value: 2 }
			],
			{ baz: 'qux', foo: ['a', 2, 'c'] }
		],
		[
			'A.10',
			{ foo: 'bar' },
			[{ op: 'add', path: '/child', value: { grandchild: {} } }],
			{ foo: 'bar', child: { grandchild: {} } }
		],
		['A.11', { foo: 'bar' }, [{ op: 'add', path: '/baz', value: 'qux', xyz: 123 }], { foo: 'bar', baz: 'qux' }],
		['A.14', { '/': 9, '~1': 10 }, [{ op: 'test', path: '/~01', value: 10 }], { '/': 9, '~1': 10 }],
		['A.16', { foo: ['bar'] }, [{ op: 'add', path: '/foo/-', value: ['abc', 'def'] }], { foo: ['bar', ['abc', 'def']] }]
	] as const)
		it(`do what RFC 6902 says in ${name}`, () => expect(apply(document, patch)).deep.equal(result));
	for (const [name, document, patch] of [
		['A.9, a value that differs', { baz: 'qux' }, [{ op: 'test', path: '/baz', value: 'bar' }]],
		['A.12, a target that is not there', { foo: 'bar' }, [{ op: 'add', path: '/baz/bat', value: 'qux' }]],
		['A.15, a number for a text', { '/': 9, '~1': 10 }, [{ op: 'test', path: '/~01', value: '10' }]],
		['a place beyond a list', { foo: [1] }, [{ op: 'add', path: '/foo/3', value: 1 }]],
		['a place with a zero before it', { foo: [1, 2] }, [{ op: 'remove', path: '/foo/01' }]],
		['a move into itself', { a: { b: 1 } }, [{ op: 'move', from: '/a', path: '/a/b' }]],
		['an unknown operation', {}, [{ op: 'swap', path: '' }]]
	] as const)
		it(`refuse ${name}`, () => expect(() => apply(document, patch)).throw());

	const json = fc.letrec<{ value: unknown; list: unknown[]; ids: { id: string }[]; object: Record<string, unknown> }>(
		(tie) => ({
			value: fc.oneof(
				{ maxDepth: 4 },
				fc.integer(),
				fc.constantFrom('a', 'b', true, null),
				tie('list'),
				tie('object'),
				tie('ids')
			),
			list: fc.array(tie('value'), { maxLength: 5 }),
			ids: fc.uniqueArray(fc.record({ id: fc.constantFrom('p', 'q', 'r', 's', 't', 'u'), of: tie('value') }), {
				maxLength: 6,
				selector: (e) => e.id
			}),
			object: fc.dictionary(fc.constantFrom('x', 'y', 'a/b', 'm~n', 'push', 'toString'), tie('value'), {
				maxKeys: 4,
				noNullPrototype: true
			})
		})
	).value;

	it('lead from any value to any other, with the package rfc6902 as the judge (property)', () =>
		fc.assert(
			fc.property(json, json, (a, b) => {
				const [before, after] = [clone({ a }), clone({ a: b })];
				const patch = diff(before, after);
				expect(apply(before, patch)).deep.equal(after);
				const judged = clone(before);
				expect(judge(judged, clone(patch) as never).every((fault) => fault === null)).to.be.true;
				expect(judged).deep.equal(after);
			}),
			{ numRuns: 1500 }
		));

	it('touch own keys of plain data alone, whatever names a path has', () => {
		const names = [
			'hasOwnProperty/call',
			'propertyIsEnumerable/call',
			'toString/call',
			'__proto__/x',
			'constructor/prototype'
		];
		const lists = ['masses/push/apply', 'masses/length', 'masses/__proto__/x', 'kits/concat/name'];
		const before = JSON.stringify(Object.getOwnPropertyNames(Object.prototype));
		for (const path of [...names, ...lists].map((n) => `/${n}`))
			for (const operation of [
				{ op: 'add', path, value: 1 },
				{ op: 'replace', path, value: 1 },
				{ op: 'remove', path },
				{ op: 'test', path, value: 1 },
				{ op: 'move', from: path, path: '/name' },
				{ op: 'copy', from: path, path: '/name' },
				{ op: 'copy', from: '/name', path }
			] as Operation[])
				expect(() => applyPatch(demoProject(), [operation]), JSON.stringify(operation)).throw(
					'does not fit the project'
				);
		expect(JSON.stringify(Object.getOwnPropertyNames(Object.prototype))).equal(before);
		expect(typeof Object.prototype.hasOwnProperty.call).equal('function');
	});

	it('copy no more than a document could hold', () => {
		const patch = Array.from({ length: 20 }, () => ({ op: 'copy', from: '/kits', path: '/kits/-' }) as Operation);
		expect(() => applyPatch(shippedDemo(), patch)).throw('copies more than 2000000 values at once');
	});

	it('are small where little has changed in a long list, and move what has only moved', () => {
		const before = demoProject();
		before.zones = [{ id: 'zone', name: 'Zone', colour: '#2B7A73', parts: [{ face: 'canopy/skin', runs: [] }] }];
		before.zones[0]!.parts[0]!.runs = Array.from({ length: 20_000 }, (_, k) => [k, 0, 5]);
		const after = structuredClone(before);
		after.zones[0]!.parts[0]!.runs[10_000] = [10_000, 0, 7];
		after.zones[0]!.parts[0]!.runs.push([20_000, 1, 2]);
		after.kits.reverse();
		const patch = diffProjects(before, after);
		expect(patch.filter((o) => o.op !== 'test').length).lessThan(2 + before.kits.length);
		expect(applyPatch(before, patch)).deep.equal(after);
		expect(patch.some((o) => o.op === 'move')).to.be.true;
	});
});

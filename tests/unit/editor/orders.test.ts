import { expect } from 'chai';
import type * as Orders from '../../../src/lib/editor/orders.svelte.ts';
import { loadState } from '../runes.ts';

describe('the orders of a project', () => {
	const fetched = globalThis.fetch;
	after(() => void (globalThis.fetch = fetched));

	it('stay as they were heard of last: an answer that was asked for before comes too late', async () => {
		const { OrderBook } = await loadState<typeof Orders>('src/lib/editor/orders.svelte.ts');
		const order = (state: Orders.Order['state']) => ({ id: 'o', state, format: 'csv', options: {} }) as Orders.Order;
		let answer = (_: Response): void => undefined;
		globalThis.fetch = () => new Promise<Response>((resolve) => (answer = resolve));
		const book = new OrderBook('p', () => undefined);
		const asked = book.refresh();
		book.hear([order('failed')]);
		answer(Response.json([order('running')]));
		await asked;
		expect(book.list.map((o) => o.state)).deep.equal(['failed']);
		// Where nothing was heard meanwhile, the answer holds.
		const again = book.refresh();
		answer(Response.json([order('cancelled')]));
		await again;
		expect(book.list.map((o) => o.state)).deep.equal(['cancelled']);
	});
});

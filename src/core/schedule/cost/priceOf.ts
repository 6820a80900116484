import type { PartTable } from '../parts.ts';
import type { PricedBy, Rate } from './schema.ts';

/** A piece as far as a price depends on it: mm, mm2, mm3, kg. */
export interface PricedPiece {
	readonly role: string;
	/** Ids. */
	readonly material: string;
	readonly kit: string;
	/** Mark of its type; empty for one that is of none. */
	readonly type: string;
	readonly length: number;
	readonly area: number;
	readonly volume: number;
	readonly weight: number;
}

/** A row of a table of parts as it is priced, with the mark of its type. */
export function pricedPiece({ words, columns, parts, part }: PartTable, row: number, type: string): PricedPiece {
	const word = (name: string) => words[name]!.words[words[name]!.index[row]!]!;
	const figure = (name: string) => columns[name]![row]!;
	return {
		role: word('role'),
		material: word('material'),
		kit: parts[part[row]!]!.kit.id,
		type,
		length: figure('length'),
		area: figure('area'),
		volume: figure('volume'),
		weight: figure('weight')
	};
}

/** How much of a piece is paid for, in the unit of the price. */
const AMOUNT: Readonly<Record<PricedBy, (piece: PricedPiece) => number>> = {
	piece: () => 1,
	m: ({ length }) => length / 1e3,
	m2: ({ area }) => area / 1e6,
	m3: ({ volume }) => volume / 1e9,
	kg: ({ weight }) => weight
};

/** What narrows a rate down, the narrowest first: a rate with one of them goes before all without it. */
const NARROWED_BY = ['type', 'kit', 'material', 'role'] as const;

const narrowness = (rate: Rate) =>
	NARROWED_BY.reduce((sum, by, k) => sum + (rate[by] === undefined ? 0 : 1 << (NARROWED_BY.length - 1 - k)), 0);

const holds = (rate: Rate, piece: PricedPiece) =>
	NARROWED_BY.every((by) => rate[by] === undefined || rate[by] === piece[by]);

/** Which rates hold for pieces of one sort, heading by heading. Two that are as narrow as each other: the later one. */
function ratesOf(rates: readonly Rate[], piece: PricedPiece): Rate[] {
	const byHeading = new Map<string, Rate>();
	for (const rate of rates) {
		const before = byHeading.get(rate.heading);
		if (holds(rate, piece) && (!before || narrowness(rate) >= narrowness(before))) byHeading.set(rate.heading, rate);
	}
	return [...byHeading.values()];
}

/** A rate with what it comes to on one piece, in the project's currency. */
export interface Price {
	readonly rate: Rate;
	/** In the unit of the price, waste included. */
	readonly amount: number;
	readonly cost: number;
}

/** Prices pieces by a list of rates; which rates hold is worked out once for pieces of a sort. */
export class Pricing {
	private readonly rates: readonly Rate[];
	private readonly known = new Map<string, readonly Rate[]>();

	constructor(rates: readonly Rate[]) {
		this.rates = rates;
	}

	pricesOf(piece: PricedPiece): Price[] {
		const key = JSON.stringify(NARROWED_BY.map((by) => piece[by]));
		const rates = this.known.get(key) ?? ratesOf(this.rates, piece);
		this.known.set(key, rates);
		return rates.map((rate) => {
			const amount = AMOUNT[rate.per](piece) * (1 + rate.waste);
			return { rate, amount, cost: amount * rate.price };
		});
	}

	/** What a piece costs in all. */
	costOf(piece: PricedPiece): number {
		let sum = 0;
		for (const { cost } of this.pricesOf(piece)) sum += cost;
		return sum;
	}
}

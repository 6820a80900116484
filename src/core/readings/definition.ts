import type { Quantity } from '../units/quantity.ts';

/** What a reading is measured on. */
export type HostKind = 'cell' | 'edge' | 'node';

/** A measurable property of a host, defined once for filters, schedules, colours and formulas. */
export interface ReadingDefinition {
	readonly label: string;
	readonly quantity: Quantity;
	/** One line for the user: what exactly is measured. */
	readonly meaning: string;
	/** Words for the values 0, 1, 2, ... of a reading that tells kinds apart. */
	readonly kinds?: readonly string[];
	/** Values go around: 0 follows on the greatest one. */
	readonly cyclic?: boolean;
}

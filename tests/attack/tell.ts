export const quantile = (values: readonly number[], q: number): number =>
	[...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * q))] ?? NaN;
export const ms = (value: number): string => `${value.toFixed(value < 10 ? 1 : 0)} ms`;
export const tell = (what: string, result: string): void => console.log(`${what.padEnd(62)} ${result}`);

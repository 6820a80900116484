import { one } from './one.ts';

export const two = (): number => one();

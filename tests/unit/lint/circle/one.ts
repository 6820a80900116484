import { two } from './two.ts';

export const one = (): number => two();

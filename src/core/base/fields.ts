import { z } from 'zod';

/** Plain values that records of every room are made of. */

export const number = z.number();
export const point = z.tuple([number, number]).readonly();
export const vector = z.tuple([number, number, number]).readonly();

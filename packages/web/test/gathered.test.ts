import { describe, expect, it } from 'vitest';
import { Gathered } from '../src/view/gathered.ts';

describe('bands of a picture', () => {
  it('come together when all were asked with the same word', () => {
    const bands = new Gathered<number>(2);
    expect(bands.add(0, 1, 'a', false)).toBeNull();
    expect(bands.add(1, 2, 'b', false)).toBeNull();
    expect(bands.add(0, 3, 'b', false)).toEqual([3, 2]);
  });
  it('mixed ones come when each is new, and the last word’s always come', () => {
    const bands = new Gathered<number>(2);
    bands.add(0, 1, 'a', true);
    expect(bands.add(0, 2, 'b', true)).toBeNull();
    expect(bands.add(1, 3, 'a', true)).toEqual([2, 3]);
    expect(bands.add(1, 4, 'b', true)).toEqual([2, 4]);
  });
});

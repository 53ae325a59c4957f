/** Numbers at the head of a place pass: the boxes of picture and frame, each left, top, width, height; laid in when it runs. */
export const boxes: readonly number[] = [0, 0, 0, 0, 0, 0, 0, 0];

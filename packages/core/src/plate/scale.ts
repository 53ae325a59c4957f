/** Plates are 16-bit: value = linear × plateScale + plateOffset, 1 being the sensor's clipping point. Room is left below black and above white. */
export const plateScale = 60000;
export const plateOffset = 2048;
/** Goes up whenever a raw's plate comes out otherwise. */
export const plateVersion = 2;

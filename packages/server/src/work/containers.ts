import { crc32, deflateSync } from 'node:zlib';

/** What a picture's file says besides its pixels. */
export interface Besides {
  icc: Uint8Array;
  exif: Uint8Array | null;
  xmp: string | null;
}

/** Puts Exif (APP1, CIPA DC-008 4.7.2), XMP (APP1, ISO 16684-3) and an ICC profile (APP2, ICC.1:2022 annex B.4) into a JPEG, leaving the pixels alone. */
export function intoJpeg(jpeg: Uint8Array, { icc, exif, xmp }: Besides): Buffer {
  const segment = (marker: number, name: string, body: Uint8Array): Buffer => {
    const size = name.length + body.length + 2;
    return Buffer.concat([Buffer.from([0xff, marker, size >> 8, size & 255]), Buffer.from(name, 'latin1'), body]);
  };
  const after = jpeg[2] === 0xff && jpeg[3] === 0xe0 ? 4 + ((jpeg[4]! << 8) | jpeg[5]!) : 2;
  return Buffer.concat([
    jpeg.subarray(0, exif ? 2 : after),
    ...(exif ? [segment(0xe1, 'Exif\0\0', exif)] : []),
    ...(xmp ? [segment(0xe1, 'http://ns.adobe.com/xap/1.0/\0', Buffer.from(xmp))] : []),
    segment(0xe2, 'ICC_PROFILE\0\x01\x01', icc),
    jpeg.subarray(after),
  ]);
}

/** Puts an ICC profile (iCCP, PNG third edition, 11.3.2.3), Exif (eXIf, 11.3.4.5) and XMP (iTXt, 11.3.3.4) into a PNG right after the header. */
export function intoPng(png: Uint8Array, { icc, exif, xmp }: Besides): Buffer {
  const chunk = (body: Buffer): Buffer => {
    const frame = Buffer.alloc(8);
    frame.writeUInt32BE(body.length - 4, 0);
    frame.writeUInt32BE(crc32(body), 4);
    return Buffer.concat([frame.subarray(0, 4), body, frame.subarray(4)]);
  };
  const named = (name: string, body: Uint8Array): Buffer => chunk(Buffer.concat([Buffer.from(name, 'latin1'), body]));
  return Buffer.concat([
    png.subarray(0, 33),
    named('iCCPprofile\0\0', deflateSync(icc)),
    ...(exif ? [named('eXIf', exif)] : []),
    ...(xmp ? [named('iTXtXML:com.adobe.xmp\0\0\0\0\0', Buffer.from(xmp))] : []),
    png.subarray(33),
  ]);
}

/** Puts an ICC profile, Exif and XMP beside a plain WebP's pixels (extended file format, RFC 9649, 2.7). */
export function intoWebp(webp: Uint8Array, size: { width: number; height: number }, { icc, exif, xmp }: Besides): Buffer {
  const chunk = (name: string, body: Uint8Array): Buffer => {
    const head = Buffer.alloc(8);
    head.write(name, 0, 'latin1');
    head.writeUInt32LE(body.length, 4);
    return Buffer.concat([head, body, Buffer.alloc(body.length & 1)]);
  };
  const extended = Buffer.alloc(10);
  extended[0] = 0x20 | (exif ? 0x08 : 0) | (xmp ? 0x04 : 0);
  extended.writeUIntLE(size.width - 1, 4, 3);
  extended.writeUIntLE(size.height - 1, 7, 3);
  const body = Buffer.concat([
    Buffer.from('WEBP', 'latin1'),
    chunk('VP8X', extended),
    chunk('ICCP', icc),
    picture(webp),
    ...(exif ? [chunk('EXIF', exif)] : []),
    ...(xmp ? [chunk('XMP ', Buffer.from(xmp))] : []),
  ]);
  const head = Buffer.alloc(8);
  head.write('RIFF', 0, 'latin1');
  head.writeUInt32LE(body.length, 4);
  return Buffer.concat([head, body]);
}
/** The chunk of a WebP that holds its pixels, with its head. */
function picture(webp: Uint8Array): Uint8Array {
  const view = Buffer.from(webp.buffer, webp.byteOffset, webp.byteLength);
  for (let at = 12; at + 8 <= view.length;) {
    const length = view.readUInt32LE(at + 4),
      end = at + 8 + length + (length & 1);
    if (/^VP8[ L]$/.test(view.toString('latin1', at, at + 4))) return view.subarray(at, end);
    at = end;
  }
  throw new Error('a WebP without a picture');
}

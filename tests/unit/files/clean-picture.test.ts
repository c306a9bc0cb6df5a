import { crc32, deflateSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { clean, isOfType } from '@/files/clean-picture';

const bytes = (...parts: (number[] | string | Uint8Array)[]): Uint8Array =>
	Uint8Array.from(parts.flatMap((p) => (typeof p === 'string' ? [...p].map((c) => c.charCodeAt(0)) : [...p])));
/** A segment of a JPEG: marker, length with its own two bytes, data (ITU-T T.81, B.1.1.4). */
const segment = (marker: number, data: Uint8Array): Uint8Array =>
	bytes([0xff, marker, (data.length + 2) >> 8, (data.length + 2) & 0xff], data);
/** A chunk of a PNG: length, name, data, CRC (ISO/IEC 15948, 5.3). */
const chunk = (name: string, data: Uint8Array): Uint8Array => {
	const out = new Uint8Array(12 + data.length);
	const view = new DataView(out.buffer);
	view.setUint32(0, data.length);
	out.set(bytes(name, data), 4);
	view.setUint32(8 + data.length, crc32(bytes(name, data)));
	return out;
};
const text = (b: Uint8Array): string => String.fromCharCode(...b);

describe('a picture without what the camera wrote', () => {
	const scan = bytes([0x12, 0xff, 0x00, 0x34, 0xff, 0xd0, 0x56]);
	const jpeg = bytes(
		[0xff, 0xd8],
		segment(0xe0, bytes('JFIF\0', [1, 1, 0, 0, 1, 0, 1, 0, 0])),
		segment(0xe1, bytes('Exif\0\0', 'GPS 52.1 N, camera of somebody')),
		segment(0xe2, bytes('ICC_PROFILE\0')),
		segment(0xfe, bytes('a comment')),
		segment(0xdb, bytes([0, 1, 2])),
		segment(0xda, bytes([1, 1, 0, 0, 63, 0])),
		scan,
		[0xff, 0xd9],
		bytes('a second picture behind the first, with its own place'),
	);
	it('JPEG: place, owner and comment are gone, and what follows the picture; the picture is byte for byte', () => {
		const out = clean(jpeg, 'image/jpeg')!;
		expect(text(out)).not.toMatch(/GPS|ICC|comment|second/);
		expect(text(out)).toContain('JFIF');
		expect(text(out).endsWith(text(bytes(scan, [0xff, 0xd9])))).toBe(true);
		// Clean already: nothing more is taken.
		expect(clean(out, 'image/jpeg')).toEqual(out);
	});
	const png = bytes(
		[0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a],
		chunk('IHDR', bytes([0, 0, 0, 1, 0, 0, 0, 1, 8, 0, 0, 0, 0])),
		chunk('tEXt', bytes('Author\0somebody')),
		chunk('eXIf', bytes('MM\0*place')),
		chunk('IDAT', deflateSync(bytes([0, 128]))),
		chunk('IEND', bytes()),
	);
	it('PNG: text, time and what a camera wrote are gone; the image stays', () => {
		const out = clean(png, 'image/png')!;
		expect(text(out)).not.toMatch(/somebody|place/);
		expect(text(out)).toMatch(/IHDR.*IDAT.*IEND/s);
		expect(clean(out, 'image/png')).toEqual(out);
	});
	it.each([
		['a JPEG that was cut off', jpeg.subarray(0, 60), 'image/jpeg'],
		['a PNG that was cut off', png.subarray(0, 40), 'image/png'],
	] as const)('%s is refused, not kept half', (_, broken, type) => expect(clean(broken, type)).toBeNull());
	it.each([
		['text that calls itself a picture', bytes('<script>alert(1)</script>'), 'image/png'],
		['a program that calls itself text', bytes([0x7f, 0x45, 0x4c, 0x46, 0, 1]), 'text/plain'],
		['a page that calls itself PDF', bytes('<html>'), 'application/pdf'],
	] as const)('%s is not what it says', (_, file, type) => expect(isOfType(file, type)).toBe(false));
	it('and what is, is', () => {
		expect(isOfType(jpeg, 'image/jpeg')).toBe(true);
		expect(isOfType(png, 'image/png')).toBe(true);
		expect(isOfType(bytes('%PDF-1.7'), 'application/pdf')).toBe(true);
	});
});

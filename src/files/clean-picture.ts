import type { AttachedType } from '@/contract/attachments';

/**
 * What a file is by its first bytes, and pictures without what a camera writes beside the image: place, time, owner, serial numbers.
 * JPEG after ITU-T T.81 and JFIF, PNG after ISO/IEC 15948: whole segments and chunks are left out, the image is not touched.
 */
const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
const begins = (bytes: Uint8Array, with_: readonly number[]): boolean => with_.every((b, i) => bytes[i] === b);

/**
 * Whether a file is what it is called: pictures and PDF by their first bytes, text by being UTF-8 without control characters.
 * @example isOfType(new TextEncoder().encode('a,b'), 'text/csv') // true
 */
export function isOfType(bytes: Uint8Array, type: AttachedType): boolean {
	switch (type) {
		case 'image/jpeg':
			return begins(bytes, [0xff, 0xd8, 0xff]);
		case 'image/png':
			return begins(bytes, PNG);
		case 'application/pdf':
			return begins(bytes, [0x25, 0x50, 0x44, 0x46, 0x2d]);
		default:
			try {
				const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
				return ![...text].some((c) => c < ' ' && c !== '\n' && c !== '\r' && c !== '\t');
			} catch {
				return false;
			}
	}
}

/** Picture without its metadata; other files as they are. Null where a picture is broken. */
export function clean(bytes: Uint8Array, type: AttachedType): Uint8Array | null {
	return type === 'image/jpeg' ? cleanJpeg(bytes) : type === 'image/png' ? cleanPng(bytes) : bytes;
}

const join = (parts: readonly Uint8Array[]): Uint8Array => {
	const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
	let at = 0;
	for (const p of parts) {
		out.set(p, at);
		at += p.length;
	}
	return out;
};

/** Application segments (but JFIF’s own and the colour transform of Adobe) and comments. */
function cleanJpeg(b: Uint8Array): Uint8Array | null {
	const parts: Uint8Array[] = [b.subarray(0, 2)];
	let at = 2;
	while (at + 4 <= b.length) {
		if (b[at] !== 0xff) return null;
		const marker = b[at + 1]!;
		// Fill bytes before a marker.
		if (marker === 0xff) {
			at++;
			continue;
		}
		const length = (b[at + 2]! << 8) | b[at + 3]!;
		if (length < 2 || at + 2 + length > b.length) return null;
		const whole = b.subarray(at, at + 2 + length);
		const keeps = marker === 0xe0 || marker === 0xee || !((marker >= 0xe1 && marker <= 0xef) || marker === 0xfe);
		if (keeps) parts.push(whole);
		at += 2 + length;
		// The picture itself follows the start of scan, to its end; what follows that is no picture.
		if (marker === 0xda) {
			const end = lastEnd(b, at);
			if (end === null) return null;
			parts.push(b.subarray(at, end));
			return join(parts);
		}
	}
	return null;
}
/** After the end-of-image marker of the main picture: in its data 0xff is always followed by 0, a restart or another marker. */
function lastEnd(b: Uint8Array, from: number): number | null {
	for (let i = from; i + 1 < b.length; i++) if (b[i] === 0xff && b[i + 1] === 0xd9) return i + 2;
	return null;
}

/** Chunks that hold text, time or what a camera wrote. */
const LEFT_OUT = new Set(['tEXt', 'zTXt', 'iTXt', 'eXIf', 'tIME']);
function cleanPng(b: Uint8Array): Uint8Array | null {
	const parts: Uint8Array[] = [b.subarray(0, 8)];
	const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
	let at = 8;
	while (at + 12 <= b.length) {
		const length = view.getUint32(at);
		const name = String.fromCharCode(...b.subarray(at + 4, at + 8));
		const end = at + 12 + length;
		if (end > b.length) return null;
		if (!LEFT_OUT.has(name)) parts.push(b.subarray(at, end));
		at = end;
		if (name === 'IEND') return join(parts);
	}
	return null;
}

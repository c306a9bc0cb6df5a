/** Longest side of a photo as it is kept: leaves and displays can be read on it, and it is sent in a moment. */
const LONGEST_PX = 1600;
const QUALITY = 0.82;
const KEPT: Record<string, string> = { pdf: 'application/pdf', txt: 'text/plain', csv: 'text/csv' };

const base64Of = (bytes: Uint8Array): string => {
	let text = '';
	for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
	return btoa(text);
};

export interface Sendable {
	name: string;
	type: 'image/jpeg' | 'image/png' | 'application/pdf' | 'text/plain' | 'text/csv';
	base64: string;
}

/** A file as it is sent: a photo made smaller and drawn anew, so that nothing but the picture leaves this device. */
export async function sendable(file: File): Promise<Sendable> {
	const name = file.name.slice(0, 200) || 'photo';
	if (file.type.startsWith('image/')) {
		const picture = await createImageBitmap(file).catch(() => null);
		if (!picture) throw new Error(`“${name}” is no picture that this browser can read: save it as JPEG or PNG.`);
		const scale = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height));
		const canvas = document.createElement('canvas');
		canvas.width = Math.max(Math.round(picture.width * scale), 1);
		canvas.height = Math.max(Math.round(picture.height * scale), 1);
		canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
		picture.close();
		const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', QUALITY));
		if (!blob) throw new Error('The picture could not be made smaller.');
		return {
			name: name.replace(/\.[a-z0-9]+$/i, '.jpg'),
			type: 'image/jpeg',
			base64: base64Of(new Uint8Array(await blob.arrayBuffer())),
		};
	}
	const type = KEPT[name.split('.').at(-1)?.toLowerCase() ?? ''] ?? file.type;
	if (!Object.values(KEPT).includes(type)) throw new Error(`“${name}”: photos, PDF, text and CSV can be kept.`);
	return { name, type: type as Sendable['type'], base64: base64Of(new Uint8Array(await file.arrayBuffer())) };
}

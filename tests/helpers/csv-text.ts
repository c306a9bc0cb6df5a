import { type CsvRecord, csvRecords } from '@/files/csv-stream';

/** A text as it comes from a disk or a wire: in pieces. */
export async function* pieces(text: string, size = 7): AsyncGenerator<string> {
	for (let i = 0; i < text.length; i += size) yield text.slice(i, i + size);
}
export async function records(text: string): Promise<CsvRecord[]> {
	const all: CsvRecord[] = [];
	for await (const r of csvRecords(pieces(text))) all.push(...r);
	return all;
}

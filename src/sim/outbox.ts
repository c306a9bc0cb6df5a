/** One sample as it goes over the wire. */
export interface WireSample {
	at: string;
	quantity: string;
	value: number;
	unit: string;
}
/** What became of a try: sent, to be tried again after so many seconds, or never to be taken. */
export type Tried = 'sent' | { againInS: number } | 'refused';

const MOST_AT_ONCE = 1000;
const MOST_KEPT = 200_000;
const FIRST_WAIT_S = 1;
const LONGEST_WAIT_S = 60;

/**
 * What a node keeps while nobody takes it: everything that was measured, oldest first, until it was taken. A batch that may have
 * arrived is sent again as it was; the other side knows it.
 */
export class Outbox {
	private readonly waiting: WireSample[] = [];
	private waitS = FIRST_WAIT_S;
	private notBefore = 0;

	get size(): number {
		return this.waiting.length;
	}

	put(samples: readonly WireSample[]): void {
		this.waiting.push(...samples);
		// A node has little room: the oldest go.
		if (this.waiting.length > MOST_KEPT) this.waiting.splice(0, this.waiting.length - MOST_KEPT);
	}

	/** Sends what waits, a batch after the other, until one is not taken. */
	async send(now: number, attempt: (batch: readonly WireSample[]) => Promise<Tried>): Promise<void> {
		if (now < this.notBefore) return;
		while (this.waiting.length > 0) {
			const batch = this.waiting.slice(0, MOST_AT_ONCE);
			const tried = await attempt(batch);
			if (tried !== 'sent' && tried !== 'refused') {
				const wait = tried.againInS > 0 ? tried.againInS : this.waitS;
				this.waitS = Math.min(this.waitS * 2, LONGEST_WAIT_S);
				this.notBefore = now + wait * 1000;
				return;
			}
			this.waitS = FIRST_WAIT_S;
			this.waiting.splice(0, batch.length);
		}
	}
}

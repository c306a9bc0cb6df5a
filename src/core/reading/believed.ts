/** A reading that is believed, with its value as calibrations put it right, in the canonical unit of its quantity. */
export interface BelievedReading {
	id: number;
	at: number;
	value: number;
	/** Standard uncertainty in the same unit. */
	u: number;
	instrument: string | null;
}

/// <reference types="astro/client" />
declare namespace App {
	interface Locals {
		/** Who enters; the grower until there is sign-in. */
		who: string;
		/** The browser it comes from, by a cookie of ours; null where it keeps none. */
		device: string | null;
	}
}

/// <reference types="astro/client" />
declare namespace App {
	interface Locals {
		/** Who asks, and what they may do. */
		asker: import('./service/people/sign-ins').Asker;
		/** How the request came. */
		connection: import('./server/connection').Connection;
		/** The browser it comes from, by a cookie of ours; null where it keeps none. */
		device: string | null;
	}
}

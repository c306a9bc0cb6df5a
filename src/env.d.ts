/// <reference types="astro/client" />
declare namespace App {
	interface Locals {
		/** Who enters; the grower until there is sign-in. */
		who: string;
	}
}

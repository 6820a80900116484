import type { IncomingMessage } from 'node:http';

declare global {
	namespace App {
		interface Error {
			message: string;
			code?: string;
		}
		interface Platform {
			/** The request as it comes in; not while the page is developed. */
			readonly req?: IncomingMessage;
		}
	}
}

import { once } from 'node:events';
import { createServer, type Socket } from 'node:net';
import { Aedes } from 'aedes';

/** A broker on this machine alone, for a first look and for tests; what it keeps goes when it ends. @returns what ends it */
export async function openBroker(port: number): Promise<() => Promise<void>> {
	const broker = await Aedes.createBroker();
	const sockets = new Set<Socket>();
	const server = createServer((socket) => {
		sockets.add(socket);
		socket.on('close', () => sockets.delete(socket));
		broker.handle(socket);
	});
	server.listen(port, '127.0.0.1');
	await once(server, 'listening');
	return async () => {
		for (const socket of sockets) socket.destroy();
		await new Promise((done) => server.close(done));
		await new Promise<void>((done) => broker.close(() => done()));
	};
}

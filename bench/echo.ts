import { WebSocketServer } from 'ws';

/** The floor of the live line: a process that sends every frame straight back. */
const server = new WebSocketServer({ port: 0, host: '127.0.0.1', perMessageDeflate: false }, () => {
  process.send!((server.address() as { port: number }).port);
});
server.on('connection', (socket, request) => {
  request.socket.setNoDelay(true);
  socket.on('message', (data, isBinary) => socket.send(data, { binary: isBinary }));
});
process.on('disconnect', () => process.exit(0));

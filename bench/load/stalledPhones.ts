import { connect, type Socket } from 'node:net';

/**
 * Phones that begin to send a photo and go out of coverage: the line stays, nothing comes any more.
 * @returns what ends them; it tells how many the server had hung up on by then
 */
export function startStalledPhones(port: number, phones: number): () => number {
  let hungUpOn = 0;
  const sockets: Socket[] = [];
  for (let n = 0; n < phones; n++) {
    const socket = connect(port, '127.0.0.1', () => {
      const name = n.toString(16).padStart(64, '0');
      socket.write(
        `PUT /api/originals/${name}/parts/0 HTTP/1.1\r\nhost: 127.0.0.1:${port}\r\ncontent-length: 500000\r\n` +
          `x-forwarded-for: 203.0.113.${n + 1}\r\n\r\nthe first bytes`,
      );
    });
    socket.on('error', () => undefined);
    socket.once('close', () => void hungUpOn++);
    sockets.push(socket);
  }
  return () => {
    const before = hungUpOn;
    for (const socket of sockets) socket.destroy();
    return before;
  };
}

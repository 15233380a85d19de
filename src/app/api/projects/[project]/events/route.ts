import { answer, whole } from '../../../answer';

const HEARTBEAT_MS = 20_000;

/** Server-sent events of a project: that something changed, and how far its jobs are. */
export const GET = answer(async ({ request, params, bijou }) => {
  const projectId = whole(params['project'], 'project');
  const encoder = new TextEncoder();
  let end = () => {};
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string) => controller.enqueue(encoder.encode(text));
      const unlisten = bijou.listen(projectId, (event) =>
        send(`data: ${JSON.stringify(event)}\n\n`),
      );
      const heartbeat = setInterval(() => send(': still here\n\n'), HEARTBEAT_MS);
      end = () => {
        clearInterval(heartbeat);
        unlisten();
      };
      send('retry: 1000\n\n');
      request.signal.addEventListener('abort', end);
    },
    cancel: () => end(),
  });
  return new Response(stream, {
    headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store, no-transform' },
  });
});

/** What went through a node, frame by frame. */
export interface Recording {
  rateHz: number;
  channels: Float32Array<ArrayBuffer>[];
}

interface Piece {
  frame: number;
  channels: Float32Array<ArrayBuffer>[];
}

/** Longer takes are ended: a phone's filter films for a minute. */
export const MOST_TAKE_SECONDS = 60;

const modules = new WeakMap<BaseAudioContext, Promise<void>>();

/** Begins to record what comes out of some nodes, each for itself. Answers what ends it. */
export async function recordFrom(
  context: AudioContext,
  nodes: readonly AudioNode[],
): Promise<() => Recording[]> {
  const loading = modules.get(context) ?? context.audioWorklet.addModule('/worklets/recorder.js');
  modules.set(context, loading);
  await loading;
  const taps = nodes.map((node) => {
    const tap = new AudioWorkletNode(context, 'bijou-recorder', { numberOfOutputs: 0 });
    const pieces: Piece[] = [];
    const most = MOST_TAKE_SECONDS * context.sampleRate;
    tap.port.onmessage = ({ data }: MessageEvent<Piece>) => {
      if (data.frame - (pieces[0]?.frame ?? data.frame) < most) pieces.push(data);
    };
    node.connect(tap);
    return { node, tap, pieces };
  });
  return () =>
    taps.map(({ node, tap, pieces }) => {
      node.disconnect(tap);
      tap.port.postMessage('end');
      return joined(pieces, context.sampleRate);
    });
}

/** Pieces that follow each other, as one; where nothing went through there is silence. */
function joined(pieces: readonly Piece[], rateHz: number): Recording {
  const count = Math.max(1, ...pieces.map(({ channels }) => channels.length));
  const first = pieces[0]?.frame ?? 0;
  const QUANTUM = 128;
  const last = pieces.at(-1);
  const frames = last ? last.frame - first + QUANTUM : 0;
  const channels = Array.from({ length: count }, () => new Float32Array(frames));
  for (const piece of pieces) {
    channels.forEach((whole, c) => {
      const part = piece.channels[c] ?? piece.channels[0];
      if (part) whole.set(part, piece.frame - first);
    });
  }
  return { rateHz, channels };
}

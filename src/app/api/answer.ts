import type * as yup from 'yup';
import { BijouError, errorFacts, type ErrorCode } from '@/core/errors';
import type { Bijou } from '@/server/bijou';
import { bodies, type BodyName, type BodyOf } from '@/server/bodies';
import { readBody } from '@/server/bodies/read';
import { isOwnHost, isOwnOrigin } from '@/server/guard';
import { bijou } from '@/server/instance';

const statuses: Partial<Record<ErrorCode, number>> = {
  'not-found': 404,
  'not-allowed': 409,
  'already-there': 409,
  'changed-meanwhile': 409,
  'too-large': 413,
  disk: 507,
  internal: 500,
};

type Params = Record<string, string>;

/**
 * Makes a route handler: checks where the request comes from, runs `work`, answers its result as
 * JSON (or as it is, when it is a Response or JSON in UTF-8), and every error as `{ error }` with its status.
 */
export function answer(
  work: (call: { request: Request; params: Params; bijou: Bijou }) => Promise<unknown>,
) {
  return async (request: Request, context: { params: Promise<Params> }): Promise<Response> => {
    try {
      if (!isOwnHost(request.headers.get('host')) || !isOwnOrigin(request.headers)) {
        throw new BijouError(
          'not-allowed',
          'This request comes from another site.',
          'Use Bijou from its own pages.',
        );
      }
      const params = await context.params;
      const result = await work({ request, params, bijou: await bijou() });
      if (result instanceof Uint8Array) return jsonOf(result);
      if (result instanceof Response) return request.method === 'HEAD' ? headOf(result) : result;
      return Response.json(result ?? null, { headers: { 'Cache-Control': 'no-store' } });
    } catch (error) {
      const facts = errorFacts(error);
      if (facts.code === 'internal') console.error(error);
      const fresh =
        facts.code === 'changed-meanwhile'
          ? await freshState(context, error).catch(() => undefined)
          : undefined;
      return Response.json({ error: facts, fresh }, { status: statuses[facts.code] ?? 400 });
    }
  };
}

/** What somebody needs to see whose change came too late: the sound, or what is new in the project. */
async function freshState(context: { params: Promise<Params> }, error: unknown): Promise<unknown> {
  const { sound, project } = await context.params;
  const { sounds, projectNews } = await bijou();
  if (sound !== undefined) return sounds.byId(Number(sound));
  return projectNews(Number(project), { revision: (error as { since?: number }).since ?? 0 });
}

/** JSON that was written elsewhere. */
function jsonOf(text: Uint8Array): Response {
  const headers = { 'Content-Type': 'application/json', 'Cache-Control': 'no-store' };
  return new Response(new Uint8Array(text), { headers });
}

/** Only the headers: a body that nobody reads would keep open what it is read from. */
async function headOf(response: Response): Promise<Response> {
  await response.body?.cancel().catch(() => undefined);
  return new Response(null, response);
}

/** A whole number from a path or a query. @throws bad-setting */
export function whole(value: string | null | undefined, field: string): number {
  const number = Number(value);
  if (value !== null && value !== '' && Number.isSafeInteger(number) && number >= 0) return number;
  throw new BijouError(
    'bad-setting',
    `"${field}" must be a whole number.`,
    'Correct the address.',
    {
      field,
    },
  );
}

/** Most bytes of a JSON body that is read and checked right here. */
const MOST_BODY_BYTES = 2 ** 20;

/** The bytes of a body, which is given up as soon as it is too long. @throws too-large */
async function piecesOf(request: Request, mostBytes: number): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  const body = request.body as unknown as AsyncIterable<Uint8Array> | null;
  for await (const piece of body ?? []) {
    bytes += piece.length;
    if (bytes > mostBytes) {
      throw new BijouError('too-large', 'The request is too long.', 'Send it in parts.');
    }
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

/** The text of a body. @throws too-large */
export async function textOf(request: Request, mostBytes = MOST_BODY_BYTES): Promise<string> {
  return Buffer.from(await piecesOf(request, mostBytes)).toString('utf8');
}

/** The JSON body, checked against `schema`. @throws too-large, bad-setting that names the field */
export async function body<T>(request: Request, schema: yup.Schema<T>): Promise<T> {
  return readBody(await textOf(request), schema);
}

/** The same of one that may be long: it is read and checked in a thread. @throws as `body` */
export async function largeBody<Name extends BodyName>(
  request: Request,
  { reading }: Bijou,
  name: Name,
): Promise<BodyOf<Name>> {
  const bytes = await piecesOf(request, bodies[name].mostBytes);
  return bytes.length > MOST_BODY_BYTES
    ? reading.body(name, bytes)
    : (readBody(
        Buffer.from(bytes).toString('utf8'),
        bodies[name].schema as yup.Schema,
      ) as BodyOf<Name>);
}

/** The bytes of a long body, for who reads it in a thread. @throws too-large */
export function bytesOf(request: Request, name: BodyName): Promise<Uint8Array> {
  return piecesOf(request, bodies[name].mostBytes);
}

import * as yup from 'yup';
import { BijouError, errorFacts, type ErrorCode } from '@/core/errors';
import { bijou } from '@/server/instance';
import type { Bijou } from '@/server/bijou';
import { isOwnHost, isOwnOrigin } from '@/server/guard';

const statuses: Partial<Record<ErrorCode, number>> = {
  'not-found': 404,
  'not-allowed': 409,
  'already-there': 409,
  'too-large': 413,
  disk: 507,
  internal: 500,
};

type Params = Record<string, string>;

/**
 * Makes a route handler: checks where the request comes from, runs `work`, answers its result as
 * JSON (or as it is, when it is a Response), and every error as `{ error }` with its status.
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
      if (result instanceof Response) return result;
      return Response.json(result ?? null, { headers: { 'Cache-Control': 'no-store' } });
    } catch (error) {
      const facts = errorFacts(error);
      if (facts.code === 'internal') console.error(error);
      return Response.json({ error: facts }, { status: statuses[facts.code] ?? 400 });
    }
  };
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

/** The JSON body, checked against `schema`. @throws bad-setting that names the field */
export async function body<T>(request: Request, schema: yup.Schema<T>): Promise<T> {
  try {
    return await schema.validate(await request.json(), { strict: true });
  } catch (error) {
    const isInvalid = error instanceof yup.ValidationError;
    throw new BijouError(
      'bad-setting',
      isInvalid ? `${error.message}.` : 'The request is not valid JSON.',
      'Correct it and try again.',
      isInvalid && error.path ? { field: error.path } : {},
    );
  }
}

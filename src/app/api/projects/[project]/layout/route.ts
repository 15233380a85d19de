import * as yup from 'yup';
import type { TableLayout } from '@/wire';
import { answer, body, whole } from '../../../answer';

const MOST_CHARACTERS = 20_000;
const schema = yup
  .object<TableLayout>()
  .test(
    'size',
    'The layout is too large',
    (layout) => JSON.stringify(layout).length <= MOST_CHARACTERS,
  )
  .required();

/** Remembers how the table of sounds is laid out. */
export const PUT = answer(async ({ request, params, bijou }) => {
  const { id } = bijou.projectById(whole(params['project'], 'project'));
  bijou.projects.setLayout(id, (await body(request, schema)) as TableLayout);
});

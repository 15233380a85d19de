import * as yup from 'yup';
import { answer, body } from '../answer';

const schema = yup.object({ name: yup.string().trim().min(1).max(80).required() }).noUnknown();

export const GET = answer(async ({ bijou }) => bijou.projects.all());

export const POST = answer(async ({ request, bijou }) => {
  const { name } = await body(request, schema);
  return bijou.projects.byId(bijou.projects.add(name));
});

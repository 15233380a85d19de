import { answer, body } from '../answer';
import { projectName } from '../fields';

export const GET = answer(async ({ bijou }) => bijou.projects.all());

export const POST = answer(async ({ request, bijou }) => {
  const { name } = await body(request, projectName);
  return bijou.projects.byId(bijou.projects.add(name));
});

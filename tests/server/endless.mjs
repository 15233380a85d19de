/** A worker that never comes to an end. */
export default () => {
  for (;;);
};

/** Puts what a page has in place of what Node has while the tests of one file run; it is put back behind them. */
export function withPage(page: Record<string, unknown>): void {
  const before = Object.keys(page).map(
    (name) => [name, Object.getOwnPropertyDescriptor(globalThis, name)] as const,
  );
  beforeEach(() => void Object.assign(globalThis, page));
  afterAll(() => {
    for (const [name, descriptor] of before) {
      if (descriptor) Object.defineProperty(globalThis, name, descriptor);
      else Reflect.deleteProperty(globalThis, name);
    }
  });
}

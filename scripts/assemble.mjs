import wabt from 'wabt';

/** WebAssembly text to its binary form. */
export async function assemble(text) {
  const assembler = await wabt();
  const module = assembler.parseWat('polyphase.wat', text, { simd: true });
  return module.toBinary({}).buffer;
}

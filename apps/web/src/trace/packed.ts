/** Bytes packed with gzip, as the browser does it. */
export async function packed(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  return throughStream(bytes, new CompressionStream("gzip"));
}

/** The bytes that were packed. @throws TypeError for bytes that are no gzip */
export async function unpacked(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  return throughStream(bytes, new DecompressionStream("gzip"));
}

async function throughStream(bytes: Uint8Array<ArrayBuffer>, stream: CompressionStream | DecompressionStream): Promise<Uint8Array<ArrayBuffer>> {
  const out = new Response(new Blob([bytes]).stream().pipeThrough(stream));
  return new Uint8Array(await out.arrayBuffer());
}

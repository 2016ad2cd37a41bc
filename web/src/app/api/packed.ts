/** A text as a body that is sent: packed with gzip (Compression Streams, WHATWG), which the server unpacks. */
export async function packed(text: string): Promise<Blob> {
  return new Response(new Blob([text]).stream().pipeThrough(new CompressionStream('gzip'))).blob();
}

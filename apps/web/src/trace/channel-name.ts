/** What a channel of a capture is called to people: its circuit by its title where there are several, and its pin. */
export function channelName(channel: string, circuits: readonly { readonly id: string; readonly title?: string | undefined }[]): string {
  const [id, pin] = channel.split(":");
  const found = circuits.find((one) => one.id === id);
  return found === undefined || pin === undefined ? channel : circuits.length === 1 ? pin : `${found.title ?? found.id} ${pin}`;
}

/** A finding as it was kept, its channel by the name people know. */
export function findingInNames(finding: string, circuits: Parameters<typeof channelName>[1]): string {
  return finding.replace(/^[\w-]+:[\w+-]+/u, (channel) => channelName(channel, circuits));
}

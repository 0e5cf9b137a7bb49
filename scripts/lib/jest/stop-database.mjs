// Stops the cluster that the tests of repositories ran on.
export default async function stop() {
  await globalThis.stopUnitDatabase?.();
}

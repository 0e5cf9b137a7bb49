import { Lanes } from "./lanes";

const soon = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

it("lets two of a job's tasks run at once, the others in their order, and other jobs beside them", async () => {
  const lanes = new Lanes();
  const order: string[] = [];
  let [running, most] = [0, 0];
  const task = (name: string) => async (): Promise<string> => {
    running += 1;
    most = Math.max(most, running);
    await soon(5);
    running -= 1;
    order.push(name);
    return name;
  };
  const names = ["a", "b", "c", "d", "e"];
  expect(await Promise.all(names.map((name) => lanes.run("one", task(name))))).toEqual(names);
  expect([most, order]).toEqual([2, names]);
  most = 0;
  await Promise.all(["x", "y", "z"].map((job) => lanes.run(job, task(job))));
  expect(most).toBe(3);
});

it("goes on after a task that failed, and gives its failure to whoever asked for it", async () => {
  const lanes = new Lanes();
  const failing = lanes.run("one", () => Promise.reject(new Error("broken")));
  const others = [1, 2, 3].map((value) => lanes.run("one", () => soon(1).then(() => value)));
  await expect(failing).rejects.toThrow("broken");
  expect(await Promise.all(others)).toEqual([1, 2, 3]);
});

it("turns away whom it cannot let wait", async () => {
  const lanes = new Lanes();
  let free: () => void = () => undefined;
  const held = new Promise<void>((resolve) => {
    free = resolve;
  });
  const waiting = Array.from({ length: 202 }, () => lanes.run("one", () => held));
  await expect(lanes.run("one", () => held)).rejects.toMatchObject({ problem: { code: "job:busy" } });
  await lanes.run("two", () => Promise.resolve());
  free();
  await Promise.all(waiting);
  await lanes.run("one", () => Promise.resolve());
});

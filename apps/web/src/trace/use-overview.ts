import { type Pyramid, pyramidOver } from "@fox-lamp/core";
import { useEffect, useState } from "react";
import { answered, captureService } from "./service";

/** The pyramids of a capture's channels, as they come; null where one is not there yet. */
export function useOverview(id: string, channels: number, windows = ""): { pyramids: readonly (Pyramid | null)[]; problem: string | null } {
  const [pyramids, setPyramids] = useState<readonly (Pyramid | null)[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    setPyramids(Array.from({ length: channels }, () => null));
    setProblem(null);
    for (let channel = 0; channel < channels; channel += 1) {
      answered(captureService().overview(id, channel, Number(windows.split(" ")[channel] ?? 1) || 1))
        .then((level) => {
          const pyramid = pyramidOver(level);
          if (current) setPyramids((before) => before.map((one, index) => (index === channel ? pyramid : one)));
        })
        .catch((error: Error) => current && setProblem(error.message));
    }
    return () => {
      current = false;
    };
  }, [id, channels, windows]);
  return { pyramids, problem };
}

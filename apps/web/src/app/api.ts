import type { Append, Callout, Entry, InstrumentAnswer, JobDetail, JobSummary, Measurement, Shop, ShopSettings } from "@fox-lamp/language";
import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";

/** The typed client of the HTTP interface; shapes come from the same schemas the server checks. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: "/api" }),
  tagTypes: ["Job", "Jobs", "Shop", "Callout"],
  endpoints: (build) => ({
    shop: build.query<Shop, void>({ query: () => "/shop", providesTags: ["Shop"] }),
    changeSettings: build.mutation<ShopSettings, ShopSettings>({
      query: (body) => ({ url: "/shop/settings", method: "PUT", body }),
      // Shown at once, and taken back when the server refuses.
      async onQueryStarted(settings, { dispatch, queryFulfilled }) {
        const shown = dispatch(api.util.updateQueryData("shop", undefined, (draft) => ({ ...draft, settings })));
        await queryFulfilled.catch(() => shown.undo());
      },
    }),
    readInstruments: build.mutation<InstrumentAnswer, { job: string; measurements: readonly Measurement[] }>({
      query: ({ job, measurements }) => ({ url: `/jobs/${job}/instruments`, method: "POST", body: { measurements } }),
    }),
    callout: build.query<Callout, string>({ query: (code) => `/callouts/${code}`, providesTags: (_result, _error, id) => [{ type: "Callout", id }] }),
    putCallout: build.mutation<void, { code: string; state: Callout }>({
      query: ({ code, state }) => ({ url: `/callouts/${code}`, method: "PUT", body: state }),
    }),
    jobs: build.query<JobSummary[], void>({ query: () => "/jobs", providesTags: ["Jobs"] }),
    job: build.query<JobDetail, string>({ query: (id) => `/jobs/${id}`, providesTags: (_result, _error, id) => [{ type: "Job", id }] }),
    append: build.mutation<Entry[], { job: string } & Append>({
      query: ({ job, entries }) => ({ url: `/jobs/${job}/entries`, method: "POST", body: { entries } }),
      invalidatesTags: ["Jobs"],
      async onQueryStarted({ job }, { dispatch, queryFulfilled }) {
        try {
          const { data } = await queryFulfilled;
          dispatch(
            api.util.updateQueryData("job", job, (draft) => {
              const known = new Set(draft.entries.map(({ id }) => id));
              draft.entries.push(...data.filter(({ id }) => !known.has(id)));
            }),
          );
        } catch {
          // The outbox keeps the entries and tries again.
        }
      },
    }),
  }),
});

export const { useShopQuery, useJobsQuery, useJobQuery, useChangeSettingsMutation, useReadInstrumentsMutation, useCalloutQuery, usePutCalloutMutation } = api;

/** Why a request failed, in the server's words where it said something. */
export function reasonOf(error: unknown): string | null {
  if (typeof error !== "object" || error === null || !("data" in error)) return null;
  const { data } = error as { data?: { message?: unknown } };
  return typeof data?.message === "string" ? data.message : null;
}

import type { Append, Entry, JobDetail, JobSummary, Shop } from "@fox-lamp/language";
import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";

/** The typed client of the HTTP interface; shapes come from the same schemas the server checks. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: "/api" }),
  tagTypes: ["Job", "Jobs"],
  endpoints: (build) => ({
    shop: build.query<Shop, void>({ query: () => "/shop" }),
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

export const { useShopQuery, useJobsQuery, useJobQuery } = api;

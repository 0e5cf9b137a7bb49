import type {
  AcceptInvitation,
  Append,
  Callout,
  Circuit,
  Entry,
  FigureRow,
  Figures,
  FiguresQuery,
  FirstForeman,
  Front,
  InstrumentAnswer,
  Invitation,
  JobDetail,
  JobFile,
  JobSummary,
  KnownCapture,
  Me,
  Measurement,
  NewJob,
  PasswordReset,
  Person,
  Recording,
  RegisteredVehicle,
  Removal,
  Role,
  ScanAnswer,
  ScanRequest,
  Share,
  SharedPage,
  ShelfImport,
  ShelfLookAnswer,
  ShelfPage,
  ShelfRecord,
  Shop,
  ShopOfHouse,
  ShopSettings,
  SpecFile,
  Stage,
  StoredImport,
  Vehicle,
  VehicleFile,
} from "@fox-lamp/language";
import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import { addNew } from "./entries";

/** A place where a person is signed in. */
export interface Session {
  readonly id: string;
  readonly token: string;
  readonly userAgent: string | null;
  readonly createdAt: string;
}

/** One stage of the yard: how many jobs, and the latest of them. */
export interface YardStage {
  readonly stage: Stage;
  readonly count: number;
  readonly jobs: readonly JobSummary[];
}

/** The typed client of the HTTP interface; shapes come from the same schemas the server checks. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: "/api" }),
  tagTypes: ["Shares", "Job", "Jobs", "Shop", "Callout", "Invitations", "Sessions", "Vehicle", "Removals", "Shops", "Shelf"],
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
    // Null until the bench shows something.
    callout: build.query<Callout | null, string>({
      query: (code) => `/callouts/${code}`,
      providesTags: (_result, _error, id) => [{ type: "Callout", id }],
    }),
    openCallout: build.mutation<{ code: string }, string>({ query: (job) => ({ url: "/callouts", method: "POST", body: { job } }) }),
    endCallout: build.mutation<unknown, string>({ query: (code) => ({ url: `/callouts/${code}`, method: "DELETE" }) }),
    putCallout: build.mutation<void, { code: string; state: Callout }>({
      query: ({ code, state }) => ({ url: `/callouts/${code}`, method: "PUT", body: state }),
    }),
    front: build.query<Front, void>({ query: () => "/front" }),
    me: build.query<Me, void>({ query: () => "/me" }),
    signIn: build.mutation<unknown, { name: string; password: string }>({
      query: ({ name, password }) => {
        const mail = name.includes("@");
        return {
          url: mail ? "/auth/sign-in/email" : "/auth/sign-in/username",
          method: "POST",
          body: mail ? { email: name, password } : { username: name, password },
        };
      },
    }),
    signOut: build.mutation<unknown, void>({ query: () => ({ url: "/auth/sign-out", method: "POST", body: {} }) }),
    makeFirst: build.mutation<unknown, FirstForeman>({ query: (body) => ({ url: "/front/first", method: "POST", body }) }),
    invitation: build.query<Invitation, string>({ query: (code) => `/invitations/${code}` }),
    acceptInvitation: build.mutation<unknown, AcceptInvitation & { code: string }>({
      query: ({ code, ...body }) => ({ url: `/invitations/${code}`, method: "POST", body }),
    }),
    changePassword: build.mutation<unknown, { currentPassword: string; newPassword: string }>({
      query: (body) => ({ url: "/auth/change-password", method: "POST", body: { ...body, revokeOtherSessions: true } }),
      invalidatesTags: ["Sessions"],
    }),
    sessions: build.query<Session[], void>({ query: () => "/auth/list-sessions", providesTags: ["Sessions"] }),
    thisSession: build.query<{ session: Session } | null, void>({ query: () => "/auth/get-session" }),
    endSession: build.mutation<unknown, string>({
      query: (token) => ({ url: "/auth/revoke-session", method: "POST", body: { token } }),
      invalidatesTags: ["Sessions"],
    }),
    endOtherSessions: build.mutation<unknown, void>({
      query: () => ({ url: "/auth/revoke-other-sessions", method: "POST", body: {} }),
      invalidatesTags: ["Sessions"],
    }),
    invitations: build.query<Invitation[], void>({ query: () => "/shop/invitations", providesTags: ["Invitations"] }),
    invite: build.mutation<Invitation, { name: string; role: Role }>({
      query: (body) => ({ url: "/shop/invitations", method: "POST", body }),
      invalidatesTags: ["Invitations"],
    }),
    withdraw: build.mutation<unknown, string>({
      query: (code) => ({ url: `/shop/invitations/${code}`, method: "DELETE" }),
      invalidatesTags: ["Invitations"],
    }),
    changePerson: build.mutation<Person, { id: string; role?: Role; active?: boolean }>({
      query: ({ id, ...body }) => ({ url: `/shop/people/${id}`, method: "PATCH", body }),
      invalidatesTags: ["Shop"],
    }),
    resetPassword: build.mutation<PasswordReset, string>({ query: (id) => ({ url: `/shop/people/${id}/new-password`, method: "POST", body: {} }) }),
    resetFor: build.query<{ name: string; username: string }, string>({ query: (code) => `/new-password/${code}` }),
    setPassword: build.mutation<unknown, { code: string; password: string }>({
      query: ({ code, password }) => ({ url: `/new-password/${code}`, method: "POST", body: { password } }),
    }),
    personFile: build.query<{ person: { username: string } }, string>({ query: (id) => `/shop/people/${id}/file`, keepUnusedDataFor: 0 }),
    blankPerson: build.mutation<unknown, { id: string; reason: string }>({
      query: ({ id, reason }) => ({ url: `/shop/people/${id}/blank`, method: "POST", body: { reason } }),
      invalidatesTags: ["Shop", "Job", "Jobs", "Removals"],
    }),
    removals: build.query<Removal[], void>({ query: () => "/shop/removals", providesTags: ["Removals"] }),
    removedPhotos: build.query<Removal[], string>({ query: (job) => `/jobs/${job}/removals`, providesTags: ["Removals"] }),
    removeJob: build.mutation<unknown, { job: string; reason: string }>({
      query: ({ job, reason }) => ({ url: `/jobs/${job}`, method: "DELETE", body: { reason } }),
      invalidatesTags: ["Jobs", "Vehicle", "Removals"],
    }),
    removePhoto: build.mutation<unknown, { job: string; photo: string; reason: string }>({
      query: ({ job, photo, reason }) => ({ url: `/jobs/${job}/photos/${photo}`, method: "DELETE", body: { reason } }),
      invalidatesTags: ["Removals"],
    }),
    shops: build.query<ShopOfHouse[], void>({ query: () => "/installation/shops", providesTags: ["Shops"] }),
    openShop: build.mutation<Invitation, { name: string; foreman: string }>({
      query: (body) => ({ url: "/installation/shops", method: "POST", body }),
      invalidatesTags: ["Shops"],
    }),
    sharedPage: build.query<SharedPage, string>({ query: (code) => `/shares/${code}` }),
    shares: build.query<Share[], string>({ query: (job) => `/jobs/${job}/shares`, providesTags: ["Shares"] }),
    share: build.mutation<Share, { job: string; page: SharedPage }>({
      query: ({ job, page }) => ({ url: `/jobs/${job}/shares`, method: "POST", body: { page } }),
      invalidatesTags: ["Shares"],
    }),
    endShare: build.mutation<unknown, { job: string; code: string }>({
      query: ({ job, code }) => ({ url: `/jobs/${job}/shares/${code}`, method: "DELETE" }),
      invalidatesTags: ["Shares"],
    }),
    shelf: build.query<ShelfPage, Record<string, string>>({ query: (params) => ({ url: "/shelf", params }), providesTags: ["Shelf"] }),
    lookAtSpecs: build.mutation<ShelfLookAnswer, readonly ShelfRecord[]>({ query: (items) => ({ url: "/shelf/look", method: "POST", body: { items } }) }),
    putSpec: build.mutation<{ id: string }, { id: string | null; item: ShelfRecord }>({
      query: ({ id, item }) => ({ url: id === null ? "/shelf" : `/shelf/${id}`, method: id === null ? "POST" : "PUT", body: { item } }),
      invalidatesTags: ["Shelf"],
    }),
    removeSpec: build.mutation<unknown, string>({ query: (id) => ({ url: `/shelf/${id}`, method: "DELETE" }), invalidatesTags: ["Shelf"] }),
    mergeShelf: build.mutation<{ count: number }, void>({ query: () => ({ url: "/shelf/merge", method: "POST", body: {} }), invalidatesTags: ["Shelf"] }),
    shelfImports: build.query<StoredImport[], void>({ query: () => "/shelf/imports", providesTags: ["Shelf"] }),
    importShelf: build.mutation<{ id: string; stored: number; skipped: number }, ShelfImport>({
      query: (body) => ({ url: "/shelf/imports", method: "POST", body }),
      invalidatesTags: ["Shelf"],
    }),
    undoImport: build.mutation<{ count: number }, string>({ query: (id) => ({ url: `/shelf/imports/${id}`, method: "DELETE" }), invalidatesTags: ["Shelf"] }),
    shelfFile: build.query<SpecFile, string | null>({
      query: (vehicle) => ({ url: "/shelf/file", params: vehicle === null ? {} : { vehicle } }),
      keepUnusedDataFor: 0,
    }),
    figures: build.query<Figures, FiguresQuery>({ query: (params) => ({ url: "/shop/figures", params }) }),
    figureRows: build.query<FigureRow[], FiguresQuery>({ query: (params) => ({ url: "/shop/figures/jobs", params }), keepUnusedDataFor: 0 }),
    yard: build.query<YardStage[], Record<string, string>>({ query: (params) => ({ url: "/yard", params }), providesTags: ["Jobs"] }),
    jobs: build.query<JobSummary[], Record<string, string>>({ query: (params) => ({ url: "/jobs", params }), providesTags: ["Jobs"] }),
    findJobs: build.query<JobSummary[], string>({ query: (q) => ({ url: "/jobs", params: { q } }), providesTags: ["Jobs"] }),
    createJob: build.mutation<{ id: string }, NewJob>({ query: (body) => ({ url: "/jobs", method: "POST", body }), invalidatesTags: ["Jobs", "Vehicle"] }),
    importJob: build.mutation<{ id: string }, unknown>({ query: (body) => ({ url: "/jobs/import", method: "POST", body }), invalidatesTags: ["Jobs"] }),
    jobFile: build.query<JobFile, string>({ query: (id) => `/jobs/${id}/file`, keepUnusedDataFor: 0 }),
    scan: build.mutation<ScanAnswer, { job: string } & ScanRequest>({
      query: ({ job, ...body }) => ({ url: `/jobs/${job}/scan`, method: "POST", body }),
    }),
    recording: build.query<Recording, { job: string; recording: string }>({ query: ({ job, recording }) => `/jobs/${job}/recordings/${recording}` }),
    putRecording: build.mutation<unknown, { job: string; recording: string; content: Recording }>({
      query: ({ job, recording, content }) => ({ url: `/jobs/${job}/recordings/${recording}`, method: "PUT", body: content }),
    }),
    knownCaptures: build.query<KnownCapture[], string>({ query: (job) => `/jobs/${job}/known-captures`, keepUnusedDataFor: 0 }),
    putPhoto: build.mutation<unknown, { job: string; photo: string; content: Blob }>({
      query: ({ job, photo, content }) => ({ url: `/jobs/${job}/photos/${photo}`, method: "PUT", body: content, headers: { "content-type": content.type } }),
    }),
    vehicles: build.query<RegisteredVehicle[], string>({ query: (q) => ({ url: "/vehicles", params: { q } }), providesTags: ["Vehicle"] }),
    vehicle: build.query<VehicleFile, string>({ query: (id) => `/vehicles/${id}`, providesTags: ["Vehicle"] }),
    changeVehicle: build.mutation<RegisteredVehicle, { id: string; details?: Vehicle; circuits?: Circuit[] }>({
      query: ({ id, ...body }) => ({ url: `/vehicles/${id}`, method: "PATCH", body }),
      invalidatesTags: ["Vehicle", "Job", "Jobs"],
    }),
    job: build.query<JobDetail, string>({ query: (id) => `/jobs/${id}`, providesTags: (_result, _error, id) => [{ type: "Job", id }] }),
    append: build.mutation<Entry[], { job: string } & Append>({
      query: ({ job, entries }) => ({ url: `/jobs/${job}/entries`, method: "POST", body: { entries } }),
      invalidatesTags: ["Jobs"],
      async onQueryStarted({ job }, { dispatch, queryFulfilled }) {
        // Where it fails the outbox keeps the entries and tries again; what others entered is asked for at the next event.
        const answer = await queryFulfilled.catch(() => null);
        if (answer !== null) dispatch(api.util.updateQueryData("job", job, (draft) => addNew(draft, answer.data)));
      },
    }),
    entriesSince: build.mutation<Entry[], { job: string; after: number }>({
      query: ({ job, after }) => ({ url: `/jobs/${job}/entries`, params: { after } }),
      invalidatesTags: ["Jobs"],
      async onQueryStarted({ job }, { dispatch, queryFulfilled }) {
        // Where it fails it is asked again at the next event.
        const answer = await queryFulfilled.catch(() => null);
        if (answer !== null) dispatch(api.util.updateQueryData("job", job, (draft) => addNew(draft, answer.data)));
      },
    }),
  }),
});

export const {
  useAcceptInvitationMutation,
  useBlankPersonMutation,
  useCalloutQuery,
  useChangePasswordMutation,
  useChangePersonMutation,
  useChangeSettingsMutation,
  useChangeVehicleMutation,
  useCreateJobMutation,
  useEndCalloutMutation,
  useEndOtherSessionsMutation,
  useEndSessionMutation,
  useEndShareMutation,
  useShareMutation,
  useSharedPageQuery,
  useSharesQuery,
  useFiguresQuery,
  useFindJobsQuery,
  useFrontQuery,
  useImportJobMutation,
  useImportShelfMutation,
  useInvitationQuery,
  useInvitationsQuery,
  useInviteMutation,
  useJobQuery,
  useJobsQuery,
  useKnownCapturesQuery,
  useLazyFigureRowsQuery,
  useLazyJobFileQuery,
  useLazyPersonFileQuery,
  useLazyRecordingQuery,
  useLazyShelfFileQuery,
  useLookAtSpecsMutation,
  useMakeFirstMutation,
  useMeQuery,
  useMergeShelfMutation,
  useOpenCalloutMutation,
  useOpenShopMutation,
  usePutCalloutMutation,
  usePutPhotoMutation,
  usePutRecordingMutation,
  usePutSpecMutation,
  useReadInstrumentsMutation,
  useRemovalsQuery,
  useRemovedPhotosQuery,
  useRemoveJobMutation,
  useRemovePhotoMutation,
  useRemoveSpecMutation,
  useResetForQuery,
  useResetPasswordMutation,
  useScanMutation,
  useSessionsQuery,
  useSetPasswordMutation,
  useShelfImportsQuery,
  useShelfQuery,
  useShopQuery,
  useShopsQuery,
  useSignInMutation,
  useSignOutMutation,
  useThisSessionQuery,
  useUndoImportMutation,
  useVehicleQuery,
  useVehiclesQuery,
  useWithdrawMutation,
  useYardQuery,
} = api;

/** Why a request failed, in the server's words where it said something. */
export function reasonOf(error: unknown): string | null {
  if (typeof error !== "object" || error === null || !("data" in error)) return null;
  const { data } = error as { data?: { message?: unknown } };
  if (typeof data?.message !== "string") return null;
  const { where } = data as { where?: unknown };
  return typeof where === "string" && where !== "" ? `${where}: ${data.message}` : data.message;
}

/** The status of a failed request; null where the server could not be reached. */
export function statusOf(error: unknown): number | null {
  return typeof error === "object" && error !== null && "status" in error && typeof error.status === "number" ? error.status : null;
}

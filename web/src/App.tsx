import type { ReactNode } from "react";
import { createBrowserRouter, Link, Navigate, RouterProvider, useRouteError } from "react-router";
import { ShelfScreen } from "./screens/shelf/ShelfScreen.tsx";
import { ShowFrame } from "./screens/show/ShowFrame.tsx";
import { EmptyState } from "./ui/EmptyState.tsx";

/** Each screen of a show is fetched when it is first entered, so that the page starts quickly. */
const router = createBrowserRouter([
  { path: "/", element: <ShelfScreen />, errorElement: <Broken /> },
  {
    path: "/shows/:showId",
    element: <ShowFrame />,
    errorElement: <Broken />,
    hydrateFallbackElement: <p className="p-10 text-quiet">Opening the show …</p>,
    children: [
      { index: true, element: <Navigate to="score" replace /> },
      {
        path: "gather",
        lazy: async () => ({ Component: (await import("./screens/gather/GatherScreen.tsx")).GatherScreen }),
      },
      {
        path: "listen",
        lazy: async () => ({ Component: (await import("./screens/listen/ListenScreen.tsx")).ListenScreen }),
      },
      {
        path: "score",
        lazy: async () => ({ Component: (await import("./screens/score/ScoreScreen.tsx")).ScoreScreen }),
      },
      {
        path: "compare/:variantId",
        lazy: async () => ({ Component: (await import("./screens/compare/CompareScreen.tsx")).CompareScreen }),
      },
      {
        path: "dress",
        lazy: async () => ({ Component: (await import("./screens/dress/DressScreen.tsx")).DressScreen }),
      },
      {
        path: "hand-over",
        lazy: async () => ({ Component: (await import("./screens/hand-over/HandOverScreen.tsx")).HandOverScreen }),
      },
    ],
  },
  { path: "*", element: <Lost /> },
]);

export function App(): ReactNode {
  return <RouterProvider router={router} />;
}

function Lost(): ReactNode {
  return (
    <EmptyState
      title="Page not found"
      action={
        <Link className="underline" to="/">
          To the shelf
        </Link>
      }
    >
      There is no page at this address.
    </EmptyState>
  );
}

function Broken(): ReactNode {
  const error = useRouteError();
  return (
    <EmptyState
      title="This page failed"
      action={
        <a className="underline" href={window.location.pathname}>
          Reload
        </a>
      }
    >
      The program made a mistake ({error instanceof Error ? error.message : "unknown"}). Your edits are kept.
    </EmptyState>
  );
}

import type { ReactNode } from "react";
import { createBrowserRouter, Link, Navigate, RouterProvider, useRouteError } from "react-router";
import { DressScreen } from "./screens/dress/DressScreen.tsx";
import { GatherScreen } from "./screens/gather/GatherScreen.tsx";
import { HandOverScreen } from "./screens/hand-over/HandOverScreen.tsx";
import { ListenScreen } from "./screens/listen/ListenScreen.tsx";
import { ShowFrame } from "./screens/ShowFrame.tsx";
import { ScoreScreen } from "./screens/score/ScoreScreen.tsx";
import { ShelfScreen } from "./screens/shelf/ShelfScreen.tsx";
import { EmptyState } from "./ui/EmptyState.tsx";

const router = createBrowserRouter([
  { path: "/", element: <ShelfScreen />, errorElement: <Broken /> },
  {
    path: "/shows/:showId",
    element: <ShowFrame />,
    errorElement: <Broken />,
    children: [
      { index: true, element: <Navigate to="score" replace /> },
      { path: "gather", element: <GatherScreen /> },
      { path: "listen", element: <ListenScreen /> },
      { path: "score", element: <ScoreScreen /> },
      { path: "dress", element: <DressScreen /> },
      { path: "hand-over", element: <HandOverScreen /> },
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
      title="Nothing is moored here"
      action={
        <Link className="underline" to="/">
          To the shelf
        </Link>
      }
    >
      This address leads nowhere.
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
          Load it again
        </a>
      }
    >
      The program made a mistake ({error instanceof Error ? error.message : "unknown"}). Your edits are kept.
    </EmptyState>
  );
}

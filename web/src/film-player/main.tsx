import { present } from "@humming-tide/core/presence";
import { PLAYER_FILM_VERSION, type PlayerFilm } from "@humming-tide/core/web-player";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { PlayerPage } from "./PlayerPage.tsx";
import "../theme.css";
import "./film-player.css";

declare global {
  interface Window {
    /** Of film.js in the same folder. */
    readonly hummingTideFilm?: PlayerFilm;
  }
}

const place = present(document.getElementById("player"));
const film = window.hummingTideFilm;
if (film?.version === PLAYER_FILM_VERSION) {
  createRoot(place).render(
    <StrictMode>
      <PlayerPage film={film} folder="film/" />
    </StrictMode>,
  );
} else {
  place.textContent =
    'The folder "film" beside this page is missing or not whole. Copy the whole folder, or unpack the whole zip, and open the page again.';
}

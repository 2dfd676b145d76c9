/**
 * Stage and transport together fill the screen, or stop doing so. `within` is any element beside
 * them; null: wherever there is a stage.
 */
export function toggleFullScreen(within: Element | null): void {
  if (document.fullscreenElement) {
    void document.exitFullscreen();
    return;
  }
  const film = within?.closest("[data-film]") ?? document.querySelector("[data-film]");
  // A browser may refuse, for example in a frame: then all stays as it is.
  void film?.requestFullscreen().catch(() => undefined);
}

import { type LiveEvent, liveEventSchema } from "@humming-tide/contract";

/**
 * The server's events in all tabs of a browser over one connection: a browser opens only six to a
 * host, and with a stream in each tab nothing else would get through. The tab that holds a lock has
 * the stream and passes on what comes; when it goes, another takes over.
 */

const LOCK = "humming-tide live wire";
const CHANNEL = "humming-tide live wire";
const REOPEN_MS = 2000;

type Listener = (event: LiveEvent) => void;

const listeners = new Set<Listener>();
let isStarted = false;

/**
 * Hears every event from now on, beginning with "connected" when the stream begins or begins again.
 * Returns the function that ends it.
 */
export function listenLive(listener: Listener): () => void {
  listeners.add(listener);
  start();
  return () => void listeners.delete(listener);
}

function start(): void {
  if (isStarted) return;
  isStarted = true;
  const channel = new BroadcastChannel(CHANNEL);
  channel.onmessage = ({ data }: MessageEvent<unknown>) => hear(liveEventSchema.safeParse(data).data);
  const pass = (event: LiveEvent): void => {
    hear(event);
    channel.postMessage(event);
  };
  // Without a secure context there are no locks: then only a tab that is seen has a stream.
  if (!("locks" in navigator)) {
    streamWhileSeen(hear);
    return;
  }
  // Held until the tab goes.
  void navigator.locks.request(LOCK, () => new Promise<never>(() => openStream(pass)));
}

function hear(event: LiveEvent | undefined): void {
  if (event) for (const listener of [...listeners]) listener(event);
}

/** Returns the function that closes it. */
function openStream(onEvent: Listener): () => void {
  let stream: EventSource;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const open = (): void => {
    stream = new EventSource("/api/events");
    stream.onmessage = ({ data }: MessageEvent<string>) => {
      const event = liveEventSchema.safeParse(JSON.parse(data));
      if (event.success) onEvent(event.data);
    };
    // A browser tries again by itself, unless the answer was no stream at all.
    stream.onerror = () => {
      if (stream.readyState !== EventSource.CLOSED) return;
      clearTimeout(timer);
      timer = setTimeout(open, REOPEN_MS);
    };
  };
  open();
  return () => {
    clearTimeout(timer);
    stream.close();
  };
}

function streamWhileSeen(onEvent: Listener): void {
  let close: (() => void) | null = null;
  const look = (): void => {
    const isSeen = document.visibilityState === "visible";
    if (isSeen) close ??= openStream(onEvent);
    else {
      close?.();
      close = null;
    }
  };
  document.addEventListener("visibilitychange", look);
  look();
}

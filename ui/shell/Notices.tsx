"use client";

import { lazy, Suspense, useEffect, useState } from "react";
import { type Notice, onNotice } from "./notify";

const Shown = lazy(() => import("./ShownNotices").then((m) => ({ default: m.ShownNotices })));

/** Where notices appear; nothing of it is fetched before the first. */
export function Notices() {
  const [notices, setNotices] = useState<readonly Notice[]>([]);
  useEffect(() => onNotice((n) => setNotices((all) => [...all, n])), []);
  return notices.length ? (
    <Suspense>
      <Shown notices={notices} />
    </Suspense>
  ) : null;
}

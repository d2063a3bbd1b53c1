import type { Metadata } from "next";
import { cookies } from "next/headers";
import type { ReactNode } from "react";
import { Asking } from "@/ui/api/Asking";
import { Notices } from "@/ui/shell/Notices";
import { SCHEME_COOKIE } from "@/ui/shell/scheme";
import "./globals.css";

export const metadata: Metadata = {
  title: { default: "Tin Ruler", template: "%s · Tin Ruler" },
  description: "Verification bench and evidence book",
  icons: { icon: "/favicon.svg" },
};

export default async function Layout({ children }: { children: ReactNode }) {
  const chosen = (await cookies()).get(SCHEME_COOKIE)?.value;
  return (
    <html lang="en" data-scheme={chosen === "dark" || chosen === "light" ? chosen : undefined}>
      <body>
        <a className="skip" href="#main">
          Skip to the content
        </a>
        <Asking>{children}</Asking>
        <Notices />
      </body>
    </html>
  );
}

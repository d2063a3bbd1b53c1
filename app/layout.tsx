import type { Metadata } from "next";
import type { ReactNode } from "react";
import { Asking } from "@/ui/api/Asking";
import { Notices } from "@/ui/shell/Notices";
import "./globals.css";

export const metadata: Metadata = {
  title: { default: "Tin Ruler", template: "%s · Tin Ruler" },
  description: "Verification bench and evidence book",
  icons: { icon: "/favicon.svg" },
};

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
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

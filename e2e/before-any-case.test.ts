import { expect, test } from "@playwright/test";

// Of its own, and first by its name: what follows makes cases, also when it is tried a second time.
test("an empty programme says what comes first", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByText("No case yet.")).toBeVisible();
  await expect(page.getByText("0 cases, 0 quantities.")).toBeVisible();
});

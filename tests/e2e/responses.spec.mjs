import { bringInQuietly, expect, held, interceptable, test } from "./desk.mjs";

const people = "Member no.,First,Last,City\r\nM-1,Ana,Okafor,Fernquay\r\nM-2,Per,Nowak,Fernquay\r\nM-3,Ines,Ruiz,Fernquay\r\n";

test("a stack of replies: the next number is typed before the last one is stored, and no press counts twice", async ({ page }) => {
  await interceptable(page);
  await bringInQuietly(page, "members.csv", people);
  const recorded = async () => (await page.request.get("/api/responses")).json();
  await page.goto("/responses");
  const number = page.getByLabel("Number");
  await number.fill("M-1");
  await number.press("Enter");
  await expect(page.getByTestId("responder")).toContainText("Okafor, Ana");
  await page.getByLabel("Amount").fill("64");

  // The server takes its time; meanwhile Enter is pressed again, and the next number is typed.
  const slow = await held(page, "**/api/responses");
  await page.keyboard.press("Enter");
  await slow.begun;
  await expect(number).toBeFocused();
  await page.keyboard.press("Enter");
  await page.keyboard.type("M-2");
  slow.letGo();
  await expect(page.getByText("Recorded the response of Okafor, Ana.")).toBeVisible();
  await expect(page.getByRole("complementary", { name: "Just entered" }).getByRole("listitem")).toHaveCount(1);
  await expect(number).toHaveValue("M-2");
  await page.unroute("**/api/responses");
  expect((await recorded()).map((r) => r.cents)).toEqual([6400]);

  // What is found for a number that is no longer in the box is not taken for the one that is.
  const late = await held(page, "**/api/responses/find*");
  await number.press("Enter");
  await late.begun;
  await number.fill("M-3");
  const answered = page.waitForResponse("**/api/responses/find*");
  late.letGo();
  await (await answered).finished();
  await page.unroute("**/api/responses/find*");
  await expect(page.getByTestId("responder")).toHaveCount(0);
  await number.press("Enter");
  await expect(page.getByTestId("responder")).toContainText("Ruiz, Ines");

  // What is not stored comes back into the boxes.
  await page.getByLabel("Note").fill("by phone");
  await page.route("**/api/responses", (route) =>
    route.fulfill({ status: 503, contentType: "application/problem+json", body: JSON.stringify({ detail: "The disk is full." }) }),
  );
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status")).toContainText("The response of Ruiz, Ines was not recorded. The disk is full.");
  await expect(number).toHaveValue("M-3");
  await expect(page.getByLabel("Note")).toHaveValue("by phone");
  await expect(page.getByTestId("responder")).toContainText("Ruiz, Ines");
});

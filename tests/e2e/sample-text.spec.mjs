import { bringInQuietly, expect, test } from "./desk.mjs";

test("what a starter shows in the place of an unknown name and address is an issue of every piece until it is replaced", async ({
  page,
}) => {
  const post = async (path, data) => (await page.request.post(path, { data })).json();
  const get = async (path) => (await page.request.get(path)).json();
  const listId = await bringInQuietly(
    page,
    "people.csv",
    "First,Last,Street,City,State,ZIP\r\nAna,Okafor,1 Quay Road,Fernquay,OR,97412\r\nPer,Nowak,2 Quay Road,Fernquay,OR,97412\r\n",
  );
  const { document } = await get("/api/starters/envelope");
  const envelope = await post("/api/designs", { name: "Envelope", listId, document });
  const dropId = await post("/api/drops", { name: "Notice", listId, designIds: [envelope], campaignName: "Spring" });
  await expect.poll(async () => (await get(`/api/drops/${dropId}`)).checking).toBe(false);
  expect((await get(`/api/drops/${dropId}`)).trays.needsReview).toBe(2);

  await page.goto(`/drops/${dropId}/proof/issues`);
  await expect(page.getByText("Sample text “Your street” of the envelope").first()).toBeVisible();

  // Replaced, nothing is left to review.
  const newest = await get(`/api/designs/${envelope}`);
  const own = JSON.parse(
    JSON.stringify(newest.document)
      .replace(/"Your organization"/g, '"Meridian Garden"')
      .replace(/"Your street"/g, '"1 Quay Road"')
      .replace(/"Your city, state, and ZIP Code"/g, '"Fernquay OR 97412"'),
  );
  const saved = await page.request.put(`/api/designs/${envelope}/document`, {
    data: { basedOn: newest.version, revision: newest.revision, document: own },
  });
  expect(saved.ok()).toBe(true);
  await expect.poll(async () => (await get(`/api/drops/${dropId}`)).trays.needsReview).toBe(0);
});

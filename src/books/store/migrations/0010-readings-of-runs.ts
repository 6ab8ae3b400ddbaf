/** How a file was read is kept with it, so that its refused rows can be handed back with their own cells. */
export const READINGS_OF_RUNS = `
-- JSON: rows above the header, and the encoding that was said; empty where the file was no table.
ALTER TABLE run ADD COLUMN reading TEXT NOT NULL DEFAULT '';
`;

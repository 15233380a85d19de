/** What comes of a recipe, as far as only reading all of it tells. Another recipe or source makes it unknown. */
export const outcome = `
ALTER TABLE sounds ADD COLUMN outcome TEXT;
CREATE TRIGGER outcomeUnknown AFTER UPDATE OF recipe, sourceSha256 ON sounds
WHEN NEW.recipe IS NOT OLD.recipe OR NEW.sourceSha256 IS NOT OLD.sourceSha256 BEGIN
  UPDATE sounds SET outcome = NULL WHERE id = NEW.id;
END;
CREATE INDEX soundsOfUnknownOutcome ON sounds(projectId)
  WHERE outcome IS NULL AND state = 'ready' AND json_array_length(recipe, '$.steps') > 0;
`;

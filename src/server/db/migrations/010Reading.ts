/** What is being read is looked for after every change. */
export const reading = `
CREATE INDEX soundsBeingRead ON sounds(projectId) WHERE state = 'reading';
`;

import type { FieldTestDocument, ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobBundle } from "#contract/jobBundle.ts";

/** Ids of every picture that a job, its pumps and its readings name. */
export function picturesOf(job: JobDocument, readings: readonly ReadingDocument[]): string[] {
  const named = [
    ...(job.attachments ?? []),
    ...job.pumps.flatMap(({ attachments = [], curve }) => [
      ...attachments,
      ...(curve?.picture ? [curve.picture] : []),
    ]),
    ...readings.flatMap(({ attachments = [] }) => attachments),
  ];
  return [...new Set(named)];
}

/**
 * A bundle under ids of its own, so that it stands beside what is here already, even where it came from here.
 * A picture that is not in it is not named any more.
 */
export function withNewIds(bundle: JobBundle, newId: () => string): JobBundle & { jobId: string } {
  const jobId = newId();
  const pictures = new Map(bundle.pictures.map(({ id }) => [id, newId()]));
  const kept = (ids: readonly string[] | undefined) => {
    const there = (ids ?? []).flatMap((id) => pictures.get(id) ?? []);
    return there.length > 0 ? { attachments: there } : {};
  };
  const reading = (document: ReadingDocument, testId: string): ReadingDocument => {
    // The job begins here at its first revision: what was judged stays, the number of the old one would mislead.
    const { attachments, jobRevision: _, ...rest } = document;
    return { ...rest, testId, ...kept(attachments) };
  };
  const { attachments, ...job } = bundle.job;
  return {
    ...bundle,
    jobId,
    job: {
      ...job,
      ...kept(attachments),
      pumps: job.pumps.map(({ attachments: own, curve, ...pump }) => {
        const picture = curve?.picture && pictures.get(curve.picture);
        const { picture: _, trace, ...from } = curve ?? { from: undefined };
        return {
          ...pump,
          ...kept(own),
          ...(curve &&
            from.from && {
              curve: {
                ...from,
                from: from.from,
                ...(picture && { picture, ...(trace && { trace }) }),
              },
            }),
        };
      }),
    },
    tests: bundle.tests.map(({ document, readings }) => {
      const id = newId();
      const test: FieldTestDocument = { ...document, jobId };
      return {
        id,
        document: test,
        readings: readings.map((own) => ({ id: newId(), document: reading(own.document, id) })),
      };
    }),
    pictures: bundle.pictures.map((own) => ({ ...own, id: pictures.get(own.id) as string })),
  };
}

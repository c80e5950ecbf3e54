import { describe, expect, it } from "vitest";
import { jobSchema } from "#contract/documents/job.ts";
import { solveJob } from "#contract/solveJob.ts";
import { verdictWords } from "#contract/wording/verdicts.ts";
import { DEMO_JOBS } from "./jobs.ts";
describe("x",()=>{ it("y",()=>{ for (const {job} of DEMO_JOBS){ const d=jobSchema.parse(job); const s=solveJob(d);
 if(s.kind!=="solved"){console.log(s);continue;}
 for (const c of Object.values(s.solution.cases)) console.log(c.levelCase,c.staticHead,JSON.stringify(c.outcome),c.running?.power,c.running?.efficiency);
 console.log(JSON.stringify(s.solution.crossCheck));
 console.log(s.solution.cases.normal.running?.ledger.map(l=>[l.kind,l.itemId,l.head.toFixed(2),l.velocity?.toFixed(2)].join(" ")).join("\n"));
 for(const v of s.verdicts){const w=verdictWords(v,d.path,"metric");console.log(v.level,"|",w.title,"|",w.sentence,"|",w.mend)}
 for(const v of s.verdicts.slice(0,3)){const w=verdictWords(v,d.path,"us");console.log(v.level,"|",w.title,"|",w.sentence,"|",w.mend)}
 console.log(s.sizeUps.map(u=>u.itemId+" "+u.larger.nominal+" +"+(u.flowGain*1000).toFixed(2)).join("; "));
 const t=performance.now(); for(let i=0;i<200;i++)solveJob(d); console.log("ms per solveJob",(performance.now()-t)/200);
 const k=s.solution.cases.normal.running; console.log(k?.headLine.map(p=>[p.itemId,p.distance.toFixed(1),p.elevation.toFixed(2),p.totalHead.toFixed(2),p.pressureHead.toFixed(2)].join(" ")).join("\n"));
 expect(1).toBe(1);} }) });

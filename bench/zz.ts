import { factsOf, standingOf, workOf, clean, START, DAY, iso, chargeOf, visitsOf, type Told } from "../core/tests/told";
import { standingDates, MARKS, expectedOutputs } from "../core/src/index";
const show=(n:string,t:Told)=>{const w=workOf(t);const s=w.standing;const d=standingDates(w);console.log(n, s.verdict.state, s.verdict.reasons.join(','), s.leftTo, s.left&&[s.left.low,s.left.typical,s.left.high].map(x=>Math.round(x)).join('|'), 'used',Math.round(s.used.litres), 'cap',s.capacity.median.toFixed(3), 'shape', s.shape.width.toFixed(3), s.shape.bypass.toFixed(4), 'pace',Math.round(s.pace), d.ok?Object.values(d.value).join(' '):d.fault.message, s.leak?`leak ${s.leak.species} ${Math.round(s.leak.low)}|${Math.round(s.leak.typical)}|${Math.round(s.leak.high)} unseen ${s.leak.isUnseen} share ${s.leak.share.toFixed(2)}`:'');};
show('first week 2 days',{outputs:clean(2)});
show('stated, nothing logged',{outputs:[],jobsPerWeek:12});
show('silence 9',{outputs:clean(9),silence:9});
show('silence 60',{outputs:clean(9),silence:60});
show('slow rise',{outputs:[3,4,6,9,12],litres:300,feed:200,tap:{low:180,typical:200,high:220}});
for (const {litres,likely,early,late} of expectedOutputs(workOf({outputs:[3,4,6,9,12],litres:300,feed:200,tap:{low:180,typical:200,high:220}}),2500)) if (litres%250<42) console.log('   ',Math.round(litres),(early/2).toFixed(1),(likely/2).toFixed(1),(late/2).toFixed(1));
show('constant share',{outputs:Array(7).fill(3)});
show('nine dips 14',{outputs:[...clean(5),Array(9).fill(14)]});
show('one 14',{outputs:[...clean(5),14]});
show('clean6',{outputs:clean(6)});
const rise=[...clean(15),2,5,9]; show('9',{outputs:rise}); show('12',{outputs:[...rise,12]}); show('19',{outputs:[...rise,19]}); show('25',{outputs:[...rise,25]});
// alkaline
for (const alk of [125,250]) for (const outs of [[...clean(14),2,5,7,8],[...clean(16),6,7,7,8]]) { show('alk '+alk,{outputs:outs,feed:160,tap:{alkalinity:alk,ph:7.4,silica:8}}); }
show('alk unknown',{outputs:[...clean(14),2,5,7,8]});
// aquarium
const aq:Partial<Told>={use:'aquarium',marks:{watch:.5,limit:1,hard:2,scale:'nacl',capacityUsed:.9},resin:2,diameter:100,flow:1,litresPerJob:60,litres:60,feed:0};
const ro=[{kind:'membrane' as const,rejection:.95}];
show('aq zeros 1',{...aq,outputs:[0,0,1],stages:ro});
show('aq zeros 2',{...aq,outputs:[0,0,2],stages:ro});
show('aq co2',{...aq,outputs:[0,0],stages:ro,tap:{low:200,typical:220,high:250,alkalinity:200,ph:6.9,silica:12}});
show('aq 4x1.2',{...aq,outputs:[0,0,1.2,1.3,1.4],stages:ro});
// feed 860
show('feed 860',{outputs:clean(6),amend:v=>v.map((x,i)=>i===5?{...x,readings:x.readings.map(r=>r.point==='feed'?{...r,value:860}:r)}:x)});
show('feed 860 confirmed',{outputs:clean(6),amend:v=>v.map((x,i)=>i===5?{...x,readings:x.readings.map(r=>r.point==='feed'?{...r,value:860,confirmed:true}:r)}:x)});
show('feed 860 twice',{outputs:clean(6),amend:v=>v.map((x,i)=>i>=4?{...x,readings:x.readings.map(r=>r.point==='feed'?{...r,value:860}:r)}:x)});
show('total +100000',{outputs:clean(6),amend:v=>v.map((x,i)=>i===5?{...x,water:{by:'total',total:100600}}:x)});
show('total first +100000',{outputs:clean(1),amend:v=>v.map((x,i)=>i===0?{...x,water:{by:'total',total:100100}}:x)});
show('sharp then nothing 17',{outputs:clean(17)});
show('sharp then nothing 19',{outputs:clean(19)});
console.log('-----');
for (const resin of [11.5,14,18,24,35]) { const t={outputs:[3,4,6,9,12],litres:300,feed:200,resin,diameter:230,tap:{low:180,typical:200,high:220}}; show('slow rise '+resin,t); 
 const w=workOf(t); const e=expectedOutputs(w,3000); const at=(l:number)=>{const p=e.find(p=>p.litres>=l)!;return [p.early/2,p.likely/2,p.late/2].map(x=>x.toFixed(1)).join('/')}; console.log('   at 300,900,1500,1800,2100,2600',[300,900,1500,1800,2100,2600].map(at).join('  ')); }

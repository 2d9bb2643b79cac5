import { chromium } from '@playwright/test';
const b=await chromium.launch({executablePath:'/usr/bin/chromium-headless-shell'});
const c=await b.newContext({baseURL:'http://localhost:3055',viewport:{width:1280,height:800}});
const ok=await c.request.post('/api/session',{data:{email:'noor.amsel@brindlewood.example',password:'brindlewood'},headers:{origin:'http://localhost:3055'}});console.log(ok.status());
const p=await c.newPage();p.on('console',m=>{if(m.type()==='error')console.log(m.text())});p.on('pageerror',e=>console.log('ERR',e.message));
await p.goto('/bots/phrasebook');await p.waitForTimeout(1500);
for(const [t,f] of [['Quality','q'],['Other words','o'],['Kept aside','a'],['Not understood','n']]){await p.getByRole('tab',{name:new RegExp('^'+t)}).click();await p.waitForTimeout(t==='Quality'?6000:800);await p.screenshot({path:`/tmp/s-${f}.png`});}
const t0=Date.now();await p.getByRole('textbox',{name:'Phrase',exact:true}).fill('the case of my cello is ripped and I would like to stop paying');await p.keyboard.press('Enter');await p.waitForTimeout(1500);await p.screenshot({path:'/tmp/s-ask.png'});
await b.close();

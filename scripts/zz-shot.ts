// usage: tsx /tmp/shot.ts USER step...   steps: go:PATH click:CSS wait:CSS sleep:MS shot:NAME size:WxH press:KEY drag:CSS:x,y:x,y log:JS
import { Browser } from '../e2e/harness/browser';
import { Key } from 'selenium-webdriver';
const [user, ...steps] = process.argv.slice(2);
const origin = process.env.ORIGIN ?? 'http://127.0.0.1:4780';
const b = await Browser.open(origin);
try {
  if (user !== '-') await b.signIn(user, 'quill-sound-2');
  for (const s of steps) {
    const i = s.indexOf(':');
    const [k, v] = [s.slice(0, i), s.slice(i + 1)];
    if (k === 'go') {
      await b.go(v);
      await b.untilLive();
    }
    if (k === 'click') await b.click(v);
    if (k === 'wait') await b.find(v);
    if (k === 'sleep') await new Promise((d) => setTimeout(d, Number(v)));
    if (k === 'shot') {
      await new Promise((d) => setTimeout(d, 700));
      await b.picture(`/tmp/shots/${v}.png`);
    }
    if (k === 'size') {
      const [w, h] = v.split('x').map(Number);
      await b.resize(w, h);
    }
    if (k === 'press') await b.press((Key as any)[v] ?? v);
    if (k === 'type') await b.press(v);
    if (k === 'log') console.log(JSON.stringify(await b.run(v)));
    if (k === 'drag') {
      const [css, f, t] = v.split('|');
      await b.drag(css, f.split(',').map(Number) as any, t.split(',').map(Number) as any);
    }
  }
} finally {
  const logs = await b.driver
    .manage()
    .logs()
    .get('browser')
    .catch(() => []);
  for (const l of logs) if (l.level.name !== 'INFO') console.log(l.level.name, l.message.slice(0, 300));
  await b.close();
}

/** How a source sends a change, signed as Standard Webhooks say, in some languages; a new one is one more entry. */

export interface Sender {
  language: string;
  /** Of the file it would stand in. */
  file: string;
  code: (address: string) => string;
}

const EVENT = `{"specversion":"1.0","id":"'$ID'","source":"/back-office","type":"plant.patched","subject":"P-0166","time":"'$TIME'","data":{"price":12}}`;

export const SENDERS: readonly Sender[] = [
  {
    language: 'curl',
    file: 'send.sh',
    code: (address) => `#!/bin/sh
# FEED_SECRET: the secret of the feed, whsec_…
ID=$(date +%s%N)
NOW=$(date +%s)
TIME=$(date -u +%Y-%m-%dT%H:%M:%S.%NZ)
BODY='${EVENT}'
KEY=$(printf %s "\${FEED_SECRET#whsec_}" | base64 -d | od -An -vtx1 | tr -d ' \\n')
SIGNATURE=$(printf %s "$ID.$NOW.$BODY" | openssl dgst -sha256 -mac HMAC -macopt "hexkey:$KEY" -binary | base64)
curl -sS "${address}" \\
  -H "Content-Type: application/cloudevents+json" \\
  -H "webhook-id: $ID" -H "webhook-timestamp: $NOW" -H "webhook-signature: v1,$SIGNATURE" \\
  -d "$BODY"
`,
  },
  {
    language: 'Node',
    file: 'send.mjs',
    code: (address) => `import { createHmac, randomUUID } from 'node:crypto';

// FEED_SECRET: the secret of the feed, whsec_…
const key = Buffer.from(process.env.FEED_SECRET.replace('whsec_', ''), 'base64');

/** What happened to a record: 'upserted' (all of it), 'patched' (what changed) or 'deleted'. */
async function send(what, subject, data) {
  const id = randomUUID();
  const time = new Date().toISOString();
  const type = \`plant.\${what}\`;
  const body = JSON.stringify({ specversion: '1.0', id, source: '/back-office', type, subject, time, data });
  const now = String(Math.floor(Date.now() / 1000));
  const signature = createHmac('sha256', key).update(\`\${id}.\${now}.\${body}\`).digest('base64');
  const answer = await fetch('${address}', {
    method: 'POST',
    headers: {
      'Content-Type': 'application/cloudevents+json',
      'webhook-id': id,
      'webhook-timestamp': now,
      'webhook-signature': \`v1,\${signature}\`,
    },
    body,
  });
  // Send it again, with the same id, after anything but 2xx and 4xx.
  if (!answer.ok) throw new Error(await answer.text());
  return answer.json();
}

console.log(await send('patched', 'P-0166', { price: 12 }));
`,
  },
  {
    language: 'PHP',
    file: 'send.php',
    code: (address) => `<?php
// FEED_SECRET: the secret of the feed, whsec_…
$key = base64_decode(str_replace('whsec_', '', getenv('FEED_SECRET')));

/** What happened to a record: 'upserted' (all of it), 'patched' (what changed) or 'deleted'. */
function send(string $key, string $what, string $subject, ?array $data = null): string
{
    $id = bin2hex(random_bytes(16));
    $event = ['specversion' => '1.0', 'id' => $id, 'source' => '/back-office', 'type' => "plant.$what",
        'subject' => $subject, 'time' => gmdate('Y-m-d\\TH:i:s.') . substr(microtime(), 2, 6) . 'Z'];
    if ($data !== null) {
        $event['data'] = (object) $data;
    }
    $body = json_encode($event, JSON_THROW_ON_ERROR);
    $now = time();
    $signature = base64_encode(hash_hmac('sha256', "$id.$now.$body", $key, true));
    return file_get_contents('${address}', false, stream_context_create(['http' => [
        'method' => 'POST',
        'header' => "Content-Type: application/cloudevents+json\\r\\nwebhook-id: $id\\r\\n"
            . "webhook-timestamp: $now\\r\\nwebhook-signature: v1,$signature",
        'content' => $body,
    ]]));
}

echo send($key, 'patched', 'P-0166', ['price' => 12]), "\\n";
`,
  },
  {
    language: 'Python',
    file: 'send.py',
    code: (address) => `import base64, hashlib, hmac, json, os, time, urllib.request, uuid
from datetime import datetime, timezone

# FEED_SECRET: the secret of the feed, whsec_…
KEY = base64.b64decode(os.environ["FEED_SECRET"].removeprefix("whsec_"))


def send(what, subject, data=None):
    """What happened to a record: "upserted" (all of it), "patched" (what changed) or "deleted"."""
    event = {
        "specversion": "1.0",
        "id": str(uuid.uuid4()),
        "source": "/back-office",
        "type": f"plant.{what}",
        "subject": subject,
        "time": datetime.now(timezone.utc).isoformat(),
    }
    if data is not None:
        event["data"] = data
    body = json.dumps(event)
    now = str(int(time.time()))
    signed = hmac.new(KEY, f"{event['id']}.{now}.{body}".encode(), hashlib.sha256).digest()
    request = urllib.request.Request(
        "${address}",
        body.encode(),
        {
            "Content-Type": "application/cloudevents+json",
            "webhook-id": event["id"],
            "webhook-timestamp": now,
            "webhook-signature": "v1," + base64.b64encode(signed).decode(),
        },
    )
    return urllib.request.urlopen(request).read().decode()


print(send("patched", "P-0166", {"price": 12}))
`,
  },
];

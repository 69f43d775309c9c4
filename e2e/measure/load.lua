-- What wrk asks for: ASKS is list, read or save; TOOLS names a file with a tool's id a line, and the version of its draft; each answer's
-- status is counted.

local headers = { Cookie = os.getenv("COOKIE"), ["Content-Type"] = "application/json" }
local asks = os.getenv("ASKS")
-- Around the name and the number by which one draft differs from the next: a client that is slow measures itself.
local before, between, after = os.getenv("DOCUMENT"):match("^(.*)NAME(.*)12345%.5(.*)$")
local tools, at, count = {}, 0, 0
statuses = ""
local counted = {}

for line in io.lines(os.getenv("TOOLS")) do
  local id, seen = line:match("^(%S+) ?(%d*)$")
  tools[#tools + 1] = { id = id, seen = tonumber(seen) or 0, busy = false }
end

-- A tool that nobody is saving just now.
local function next_tool()
  for _ = 1, #tools do
    at = at % #tools + 1
    if not tools[at].busy then return at end
  end
  return at
end

function request()
  if asks == "list" then return wrk.format("GET", "/api/v1/tools", headers) end
  local which = next_tool()
  local tool = tools[which]
  if asks == "read" then return wrk.format("GET", "/api/v1/tools/" .. tool.id, headers) end
  tool.busy = true
  count = count + 1
  local body = '{"seen":' .. tool.seen .. ',"based_on":1,"document":' .. before .. "load " .. which .. between
    .. string.format("%.6f", 2 + count % 1000000 / 1000000) .. after .. "}"
  return wrk.format("PUT", "/api/v1/tools/" .. tool.id .. "/draft", headers, body)
end

function response(status, _, body)
  counted[status] = (counted[status] or 0) + 1
  local which, seen = body:match('"name":"load (%d+)"'), body:match('"version":(%d+),"based_on"')
  if which and seen then
    tools[tonumber(which)].seen, tools[tonumber(which)].busy = tonumber(seen), false
  end
  -- Read by done(), which lives elsewhere.
  local all = {}
  for code, n in pairs(counted) do all[#all + 1] = code .. ":" .. n end
  statuses = table.concat(all, " ")
end

-- To look at answers costs more than the server does: refusals are counted without.
if asks ~= "save" then response = nil end

local asked
function setup(thread) asked = thread end

function done(summary, latency)
  local e = summary.errors
  print(string.format("RESULT %.1f %.2f %.2f %d %d %s", summary.requests / summary.duration * 1e6, latency:percentile(50) / 1000,
    latency:percentile(99) / 1000, e.status, e.connect + e.read + e.write + e.timeout, asked:get("statuses") or ""))
end

package flarvo.note;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.WebSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;

/** A Chromium without a window, driven by its own protocol. */
final class Browser implements AutoCloseable {

  private static final ObjectMapper MAPPER = new ObjectMapper();
  private static final long SECONDS = 60;

  private final Process process;
  private final WebSocket socket;
  private final AtomicInteger next = new AtomicInteger();
  private final Map<Integer, CompletableFuture<JsonNode>> waiting = new ConcurrentHashMap<>();
  private final List<String> errors = Collections.synchronizedList(new ArrayList<>());
  private final List<String> requests = Collections.synchronizedList(new ArrayList<>());

  /** Where a Chromium is installed; empty without one. */
  static Optional<String> installed() {
    return Arrays.stream(System.getenv("PATH").split(":", -1))
        .flatMap(
            d ->
                Arrays.stream(new String[] {"chromium", "chromium-browser"})
                    .map(n -> Path.of(d, n)))
        .filter(Files::isExecutable)
        .map(Path::toString)
        .findFirst();
  }

  Browser(String program, Path profile) throws Exception {
    process =
        new ProcessBuilder(
                program,
                "--headless=new",
                "--no-sandbox",
                "--use-angle=swiftshader",
                "--enable-unsafe-swiftshader",
                "--no-first-run",
                "--window-size=1000,800",
                "--remote-debugging-port=0",
                "--user-data-dir=" + profile,
                "about:blank")
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    HttpClient http = HttpClient.newHttpClient();
    String port = port(profile.resolve("DevToolsActivePort"));
    JsonNode pages =
        MAPPER.readTree(
            http.send(
                    HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/json/list"))
                        .build(),
                    HttpResponse.BodyHandlers.ofString())
                .body());
    String page = "";
    for (JsonNode p : pages) {
      page = p.get("type").asText().equals("page") ? p.get("webSocketDebuggerUrl").asText() : page;
    }
    socket =
        http.newWebSocketBuilder()
            .buildAsync(URI.create(page), new Listener())
            .get(SECONDS, TimeUnit.SECONDS);
    for (String domain : List.of("Runtime", "Log", "Page", "Network")) {
      send(domain + ".enable", MAPPER.createObjectNode());
    }
  }

  private static String port(Path file) throws Exception {
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(SECONDS);
    while (System.nanoTime() < end) {
      if (Files.exists(file) && Files.readString(file).contains("\n")) {
        return Files.readAllLines(file).get(0);
      }
      Thread.sleep(50);
    }
    throw new AssertionError("the browser did not start");
  }

  void open(Path page) throws Exception {
    send("Page.navigate", MAPPER.createObjectNode().put("url", page.toUri().toString()));
  }

  /** What a script gives, as JSON. */
  JsonNode evaluate(String script) throws Exception {
    ObjectNode o = MAPPER.createObjectNode().put("expression", script);
    o.put("returnByValue", true).put("awaitPromise", true);
    JsonNode r = send("Runtime.evaluate", o);
    if (r.has("exceptionDetails")) {
      throw new AssertionError(r.get("exceptionDetails").toString());
    }
    return r.get("result").path("value");
  }

  /** Waits until a script gives true. */
  void await(String script) throws Exception {
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(SECONDS);
    while (System.nanoTime() < end) {
      if (evaluate(script).asBoolean()) {
        return;
      }
      Thread.sleep(50);
    }
    throw new AssertionError("never true: " + script + "; errors: " + errors);
  }

  /** Errors on the console so far, exceptions included. */
  List<String> errors() {
    return List.copyOf(errors);
  }

  /** Everything that was fetched and is not part of the page. */
  List<String> requests() {
    return List.copyOf(requests);
  }

  private JsonNode send(String method, ObjectNode params) throws Exception {
    int id = next.incrementAndGet();
    CompletableFuture<JsonNode> answer = new CompletableFuture<>();
    waiting.put(id, answer);
    ObjectNode o = MAPPER.createObjectNode().put("id", id).put("method", method);
    o.set("params", params);
    socket.sendText(o.toString(), true).get(SECONDS, TimeUnit.SECONDS);
    return answer.get(SECONDS, TimeUnit.SECONDS).path("result");
  }

  private void event(JsonNode n) {
    JsonNode p = n.path("params");
    switch (n.path("method").asText()) {
      case "Runtime.exceptionThrown" -> errors.add(p.get("exceptionDetails").toString());
      case "Runtime.consoleAPICalled" -> {
        if (p.path("type").asText().matches("error|assert|warning")) {
          errors.add(p.get("args").toString());
        }
      }
      case "Log.entryAdded" -> {
        if (p.path("entry").path("level").asText().equals("error")) {
          errors.add(p.get("entry").toString());
        }
      }
      case "Network.requestWillBeSent" -> {
        String url = p.path("request").path("url").asText();
        if (!url.startsWith("data:")) {
          requests.add(url);
        }
      }
      default -> {}
    }
  }

  @Override
  public void close() {
    socket.abort();
    process.descendants().forEach(ProcessHandle::destroyForcibly);
    process.destroyForcibly().onExit().join(); // its profile is deleted next
  }

  private final class Listener implements WebSocket.Listener {
    private final StringBuilder part = new StringBuilder();

    @Override
    public CompletionStage<?> onText(WebSocket s, CharSequence text, boolean last) {
      part.append(text);
      if (last) {
        try {
          JsonNode n = MAPPER.readTree(part.toString());
          if (n.has("id")) {
            waiting.remove(n.get("id").asInt()).complete(n);
          } else {
            event(n);
          }
        } catch (com.fasterxml.jackson.core.JsonProcessingException e) {
          errors.add(e.getMessage());
        }
        part.setLength(0);
      }
      s.request(1);
      return null;
    }
  }
}

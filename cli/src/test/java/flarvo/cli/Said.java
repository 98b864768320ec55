package flarvo.cli;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.Arrays;

/** What a command answered. */
record Said(int code, String out, String err) {

  static Said run(Object... words) {
    StringWriter out = new StringWriter();
    StringWriter err = new StringWriter();
    String[] args = Arrays.stream(words).map(Object::toString).toArray(String[]::new);
    int code = Main.run(new PrintWriter(out), new PrintWriter(err), args);
    return new Said(code, out.toString(), err.toString());
  }

  JsonNode json() {
    try {
      return new ObjectMapper().readTree(out);
    } catch (IOException e) {
      throw new AssertionError("no JSON: " + out, e);
    }
  }
}

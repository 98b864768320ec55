package flarvo.format.usd;

import java.util.LinkedHashMap;
import java.util.Map;

/** Relocates as a text layer writes them. */
final class UsdTextRelocates {

  private UsdTextRelocates() {}

  /** {@code { <from>: <to>, … }}; to {@code <>} for what is removed. */
  static Map<String, Object> read(UsdTextScanner in) {
    Map<String, Object> map = new LinkedHashMap<>();
    in.enter();
    in.expect('{');
    for (in.blank(); in.peek() != '}'; in.blank()) {
      if (in.peek() != '<') {
        throw in.error("a path such as </World/prop> expected");
      }
      String from = in.path();
      in.blank();
      in.expect(':');
      in.blank();
      if (in.peek() != '<') {
        throw in.error("a path such as </World/prop> expected");
      }
      map.put(from, in.path());
      in.blank();
      if (in.peek() == ',') {
        in.skip(1);
      }
    }
    in.skip(1);
    in.leave();
    return map;
  }
}

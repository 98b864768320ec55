package flarvo.format.fbx;

/** An object's name with its class, which text and binary files join in ways of their own. */
record FbxName(String kind, String name) {

  String text() {
    return kind + "::" + name;
  }

  String binary() {
    return name + "\u0000\u0001" + kind;
  }
}

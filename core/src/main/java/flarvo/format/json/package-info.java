/**
 * The scene document of our own: everything a shot holds, in JSON, with nothing lost. The schema is
 * described in docs/scene.md.
 */
package flarvo.format.json;

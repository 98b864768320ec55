package flarvo.format;

import flarvo.scene.Similarity;

/**
 * A node that stands still and under which things hang.
 *
 * @param place from the node's space to the file's world, in the file's unit
 */
public record FileParent(String name, Similarity place) {}

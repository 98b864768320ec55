package flarvo.receive;

/**
 * How well the 2D tracks agree under one reading of a fact.
 *
 * @param reading for eyes
 * @param ruling the ruling that stands for this reading
 * @param errorPx between observation and projection, as suspects are measured; strays do not move
 *     it
 */
public record Evidence(String reading, String ruling, double errorPx) {}

package flarvo.proof;

/**
 * One thing compared besides drift.
 *
 * @param expected what the recipient must find
 * @param found what the file read back says
 */
public record Check(String name, boolean holds, String expected, String found) {}

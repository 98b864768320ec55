/**
 * Why a file does not hold: mix-ups that are tried on it, and measured against 2D tracks. A {@code
 * Family} proposes changes, {@code TriedScene} measures the scene under them, {@code SuspectSearch}
 * ranks them alone and in pairs.
 */
package flarvo.suspect;

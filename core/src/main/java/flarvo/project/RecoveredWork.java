package flarvo.project;

import java.nio.file.Path;
import java.time.Instant;

/**
 * Unsaved work that an earlier run left behind.
 *
 * @param at when its copy was written
 * @param copy where the copy lies
 */
public record RecoveredWork(ProjectFile project, Instant at, Path copy) {}

package flarvo.project;

import java.time.Instant;

/** Unsaved work that an earlier session left behind, and when its copy was written. */
public record RecoveredWork(ProjectFile project, Instant at) {}

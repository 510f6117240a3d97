using System.Collections.Concurrent;

namespace Bandeja.Server.Events;

/// <summary>Reports how far a job is.</summary>
public delegate void JobProgress(long done, long total);

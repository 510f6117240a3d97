namespace Bandeja.Work.Hosting;

/// <summary>Reports how far a job is.</summary>
public delegate void JobProgress(long done, long total);

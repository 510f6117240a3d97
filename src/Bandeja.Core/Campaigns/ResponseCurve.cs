namespace Bandeja.Core.Campaigns;

/// <summary>How many had responded by how many days after their piece was mailed.</summary>
public static class ResponseCurve
{
    /// <summary>The share, from 0 to 1, that had responded by each day, from day 0 up to the last.</summary>
    /// <param name="mailed">How many pieces were mailed.</param>
    /// <param name="byDay">How many responded on each day after their mailing; what came before the mailing counts for day 0.</param>
    /// <param name="days">The last day.</param>
    public static IReadOnlyList<double> Of(long mailed, IReadOnlyDictionary<int, long> byDay, int days)
    {
        var curve = new double[days + 1];
        var sum = byDay.Where(d => d.Key < 0).Sum(d => d.Value);
        for (var day = 0; day <= days; day++)
        {
            sum += byDay.GetValueOrDefault(day);
            curve[day] = mailed == 0 ? 0 : (double)sum / mailed;
        }
        return curve;
    }
}

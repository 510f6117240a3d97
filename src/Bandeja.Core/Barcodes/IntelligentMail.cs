using System.Numerics;
using Bandeja.Core.Places;

namespace Bandeja.Core.Barcodes;

/// <summary>A part of an Intelligent Mail barcode that is not as the standard has it. The message is for the user.</summary>
public sealed class IntelligentMailException(string message) : Exception(message);

/// <summary>
/// The Intelligent Mail barcode of the United States Postal Service (USPS-B-3200, revision H): 20 digits of tracking code and 0, 5, 9
/// or 11 digits of routing code become 65 bars of four states.
/// </summary>
public static class IntelligentMail
{
    /// <summary>How many bars there are.</summary>
    public const int Bars = 65;

    // Section 3.2: nominal measures within the bounds of table 2, points. 22 bars to the inch; a full bar of 0.145 inch.
    /// <summary>From bar to bar.</summary>
    public const double Pitch = 72.0 / 22;

    /// <summary>Width of a bar, 0.020 inch.</summary>
    public const double BarWidth = 0.020 * 72;

    /// <summary>Height of a full bar.</summary>
    public const double FullHeight = 0.145 * 72;

    /// <summary>Height of a tracker, the part that every bar has.</summary>
    public const double TrackerHeight = 0.048 * 72;

    /// <summary>Width from the first bar to the last.</summary>
    public const double Width = 64 * Pitch + BarWidth;

    /// <summary>Clear to the left and right, 0.125 inch.</summary>
    public const double ClearX = 0.125 * 72;

    /// <summary>Clear above and below, 0.028 inch.</summary>
    public const double ClearY = 0.028 * 72;

    // Appendix D, table 22, bar by bar: character and bit that make the bar rise, and those that make it descend.
    static readonly byte[] AscenderCharacter =
    [
        4,
        0,
        2,
        6,
        3,
        5,
        1,
        9,
        8,
        7,
        1,
        2,
        0,
        6,
        4,
        8,
        2,
        9,
        5,
        3,
        0,
        1,
        3,
        7,
        4,
        6,
        8,
        9,
        2,
        0,
        5,
        1,
        9,
        4,
        3,
        8,
        6,
        7,
        1,
        2,
        4,
        3,
        9,
        5,
        7,
        8,
        3,
        0,
        2,
        1,
        4,
        0,
        9,
        1,
        7,
        0,
        2,
        4,
        6,
        3,
        7,
        1,
        9,
        5,
        8,
    ];
    static readonly byte[] AscenderBit =
    [
        3,
        0,
        8,
        11,
        1,
        12,
        8,
        11,
        10,
        6,
        4,
        12,
        2,
        7,
        9,
        6,
        7,
        9,
        2,
        8,
        4,
        0,
        12,
        7,
        10,
        9,
        0,
        7,
        10,
        5,
        7,
        9,
        6,
        8,
        2,
        12,
        1,
        4,
        2,
        0,
        1,
        5,
        4,
        6,
        12,
        1,
        0,
        9,
        4,
        7,
        5,
        10,
        2,
        6,
        9,
        11,
        2,
        12,
        6,
        7,
        5,
        11,
        0,
        3,
        2,
    ];
    static readonly byte[] DescenderCharacter =
    [
        7,
        1,
        9,
        5,
        8,
        0,
        2,
        4,
        6,
        3,
        5,
        8,
        9,
        7,
        3,
        0,
        6,
        1,
        7,
        4,
        6,
        8,
        9,
        2,
        5,
        1,
        7,
        5,
        4,
        3,
        8,
        7,
        6,
        0,
        2,
        5,
        4,
        9,
        3,
        0,
        1,
        6,
        8,
        2,
        0,
        4,
        5,
        9,
        6,
        7,
        5,
        2,
        6,
        3,
        8,
        5,
        1,
        9,
        8,
        7,
        4,
        0,
        2,
        6,
        3,
    ];
    static readonly byte[] DescenderBit =
    [
        2,
        10,
        12,
        5,
        9,
        1,
        5,
        4,
        3,
        9,
        11,
        5,
        10,
        1,
        6,
        3,
        4,
        1,
        10,
        0,
        2,
        11,
        8,
        6,
        1,
        12,
        3,
        8,
        6,
        4,
        4,
        11,
        0,
        6,
        1,
        9,
        11,
        5,
        3,
        7,
        3,
        10,
        7,
        11,
        8,
        2,
        10,
        3,
        5,
        8,
        0,
        3,
        12,
        11,
        8,
        4,
        5,
        1,
        3,
        0,
        7,
        12,
        9,
        8,
        10,
    ];

    static readonly ushort[] Characters = [.. CharactersOf(5, 1287), .. CharactersOf(2, 78)];

    /// <summary>Appendix B: the 13-bit characters with a number of bits set, each with its mirror image, palindromes last.</summary>
    static ushort[] CharactersOf(int bits, int count)
    {
        var table = new ushort[count];
        int low = 0,
            high = count - 1;
        for (var value = 0; value < 8192; value++)
        {
            if (BitOperations.PopCount((uint)value) != bits)
                continue;
            var mirror = 0;
            for (var i = 0; i < 13; i++)
                if ((value & (1 << i)) != 0)
                    mirror |= 1 << (12 - i);
            if (mirror < value)
                continue;
            if (mirror == value)
                table[high--] = (ushort)value;
            else
            {
                table[low++] = (ushort)value;
                table[low++] = (ushort)mirror;
            }
        }
        return table;
    }

    /// <summary>Encodes a tracking code and a routing code as 65 letters: F full, A ascender, D descender, T tracker.</summary>
    /// <exception cref="IntelligentMailException">A code is not as the standard has it.</exception>
    public static string Encode(string tracking, string routing)
    {
        if (tracking.Length != 20 || !tracking.All(char.IsAsciiDigit))
            throw new IntelligentMailException($"The tracking code must have 20 digits; this one has {tracking.Length}.");
        if (tracking[1] > '4')
            throw new IntelligentMailException("The second digit of the barcode ID must be 0 to 4.");
        if (routing.Length is not (0 or 5 or 9 or 11) || !routing.All(char.IsAsciiDigit))
            throw new IntelligentMailException($"The routing code must have 0, 5, 9, or 11 digits; “{routing}” has {routing.Length}.");
        // Section 2.2.1: the codes as one number of 102 bits.
        ulong route = 0;
        foreach (var c in routing)
            route = route * 10 + (ulong)(c - '0');
        route += routing.Length switch
        {
            5 => 1UL,
            9 => 100_001UL,
            11 => 1_000_100_001UL,
            _ => 0UL,
        };
        UInt128 number = route;
        number = number * 10 + (uint)(tracking[0] - '0');
        number = number * 5 + (uint)(tracking[1] - '0');
        ulong rest = 0;
        for (var i = 2; i < 20; i++)
            rest = rest * 10 + (ulong)(tracking[i] - '0');
        number = number * 1_000_000_000_000_000_000UL + rest;

        var check = Check(number);
        // Section 2.2.3: code words, the last with base 636, the others with base 1365.
        Span<int> words = stackalloc int[10];
        (number, words[9]) = Divided(number, 636);
        for (var i = 8; i > 0; i--)
            (number, words[i]) = Divided(number, 1365);
        words[0] = (int)number;
        // Section 2.2.4: the parity of the whole goes into the last word, the eleventh bit of the check into the first.
        words[9] *= 2;
        if ((check & 0x400) != 0)
            words[0] += 659;
        Span<ushort> characters = stackalloc ushort[10];
        for (var i = 0; i < 10; i++)
        {
            characters[i] = Characters[words[i]];
            if ((check & (1 << i)) != 0)
                characters[i] = (ushort)(~characters[i] & 0x1FFF);
        }
        Span<char> bars = stackalloc char[Bars];
        for (var i = 0; i < Bars; i++)
        {
            var up = (characters[AscenderCharacter[i]] >> AscenderBit[i] & 1) != 0;
            var down = (characters[DescenderCharacter[i]] >> DescenderBit[i] & 1) != 0;
            bars[i] = up
                ? down
                    ? 'F'
                    : 'A'
                : down
                    ? 'D'
                    : 'T';
        }
        return new(bars);
    }

    static (UInt128 Quotient, int Remainder) Divided(UInt128 number, uint by)
    {
        // Long division with digits of 32 bits: the numbers have 102 bits, and the general division is many times slower.
        ulong rest = 0,
            q3,
            q2,
            q1,
            q0;
        ulong high = (ulong)(number >> 64),
            low = (ulong)number;
        var part = rest << 32 | high >> 32;
        q3 = part / by;
        rest = part % by;
        part = rest << 32 | high & 0xFFFFFFFF;
        q2 = part / by;
        rest = part % by;
        part = rest << 32 | low >> 32;
        q1 = part / by;
        rest = part % by;
        part = rest << 32 | low & 0xFFFFFFFF;
        q0 = part / by;
        rest = part % by;
        return (new UInt128(q3 << 32 | q2, q1 << 32 | q0), (int)rest);
    }

    /// <summary>Section 2.2.2 and appendix C: the frame check sequence of 11 bits, generator 0xF35, over the 102 bits.</summary>
    static int Check(UInt128 number)
    {
        var sequence = 0x7FF;
        for (var bit = 101; bit >= 0; bit--)
        {
            var top = sequence >> 10 ^ (int)(number >> bit & 1);
            sequence = sequence << 1 & 0x7FF;
            if ((top & 1) != 0)
                sequence ^= 0xF35 & 0x7FF;
        }
        return sequence;
    }

    /// <summary>The digits of a serial number for a mailer: 9 where the mailer identifier has 6, 6 where it has 9 (section
    /// 2.1.4).</summary>
    /// <exception cref="IntelligentMailException">The mailer identifier has another length.</exception>
    public static int SerialDigits(string mailer) =>
        mailer.All(char.IsAsciiDigit)
            ? mailer.Length switch
            {
                // Section 2.1.3: those of nine digits begin with 9, those of six with 0 to 8; no such number is all zeros.
                6 when mailer[0] == '9' => throw new IntelligentMailException(
                    $"A 6-digit mailer ID starts with 0 to 8; the postal service does not issue “{mailer}”."
                ),
                9 when mailer[0] != '9' => throw new IntelligentMailException(
                    $"A 9-digit mailer ID starts with 9; the postal service does not issue “{mailer}”."
                ),
                6 when mailer == "000000" => throw new IntelligentMailException(
                    "The mailer ID is all zeros; the postal service does not issue that number."
                ),
                6 => 9,
                9 => 6,
                _ => throw new IntelligentMailException($"A mailer ID must have 6 or 9 digits; “{mailer}” has {mailer.Length}."),
            }
            : throw new IntelligentMailException($"A mailer ID must be 6 or 9 digits with no other characters; this one is “{mailer}”.");

    /// <summary>Puts the tracking code together.</summary>
    /// <param name="barcodeId">Two digits, the second 0 to 4 (section 2.1.1).</param>
    /// <param name="service">Service type identifier, three digits.</param>
    /// <param name="mailer">Mailer identifier, 6 or 9 digits.</param>
    /// <param name="serial">The piece's serial number.</param>
    /// <exception cref="IntelligentMailException">A part is not as the standard has it.</exception>
    public static string Tracking(string barcodeId, string service, string mailer, long serial)
    {
        if (barcodeId.Length != 2 || !barcodeId.All(char.IsAsciiDigit) || barcodeId[1] > '4')
            throw new IntelligentMailException($"A barcode ID must have two digits, the second 0 to 4; this one is “{barcodeId}”.");
        if (service == "000")
            throw new IntelligentMailException("The service type ID 000 is not a service. The postal service lists those in use.");
        if (service.Length != 3 || !service.All(char.IsAsciiDigit))
            throw new IntelligentMailException($"A service type ID must have three digits; this one is “{service}”.");
        var digits = SerialDigits(mailer);
        if (serial < 0 || serial >= (digits == 9 ? 1_000_000_000L : 1_000_000L))
            throw new IntelligentMailException($"The serial number for this mailer ID must have {digits} digits; this one is {serial}.");
        return $"{barcodeId}{service}{mailer}{serial.ToString(System.Globalization.CultureInfo.InvariantCulture).PadLeft(digits, '0')}";
    }

    /// <summary>The routing code of a United States address: ZIP, ZIP+4, and the delivery point where it is known.</summary>
    /// <returns>5, 9 or 11 digits; null where the postal code is none of these.</returns>
    public static string? Routing(string postalCode, string deliveryPoint)
    {
        var code = PostalCode.Bare(postalCode);
        if (code.Length is not (5 or 9 or 11) || !code.All(char.IsAsciiDigit))
            return null;
        return code.Length == 9 && deliveryPoint.Length == 2 && deliveryPoint.All(char.IsAsciiDigit) ? code + deliveryPoint : code;
    }
}

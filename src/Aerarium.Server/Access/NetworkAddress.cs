using System.Net;
using System.Net.Sockets;

namespace Aerarium.Server.Access;

/// <summary>Where a request comes from, as attempts are counted: an IPv4 address, or the /64 network of an IPv6 address, which is one household or office (RFC 6177).</summary>
internal static class NetworkAddress
{
    private const int PrefixBytes = 8;

    /// <summary>Of a request; empty when it is not known.</summary>
    public static string Of(HttpContext http) => http.Connection.RemoteIpAddress is { } address ? Of(address) : "";

    /// <summary>Of an address.</summary>
    public static string Of(IPAddress address)
    {
        if (address.IsIPv4MappedToIPv6)
        {
            return address.MapToIPv4().ToString();
        }

        if (address.AddressFamily != AddressFamily.InterNetworkV6 || IPAddress.IsLoopback(address))
        {
            return address.ToString();
        }

        var bytes = address.GetAddressBytes();
        Array.Clear(bytes, PrefixBytes, bytes.Length - PrefixBytes);
        return $"{new IPAddress(bytes)}/64";
    }
}

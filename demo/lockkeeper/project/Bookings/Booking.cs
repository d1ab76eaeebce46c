namespace Maresia.Bookings;

public record Booking(string Lock, DateTime At);

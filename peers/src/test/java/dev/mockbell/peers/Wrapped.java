package dev.mockbell.peers;

import jakarta.jws.Oneway;
import jakarta.jws.WebMethod;
import jakarta.jws.WebParam;
import jakarta.jws.WebResult;
import jakarta.jws.WebService;
import java.util.Date;
import java.util.List;

/** Document/literal wrapped: headers, faults, lists, one-way, no input. */
@WebService(targetNamespace = "urn:northfell:peers")
public class Wrapped {
    @WebMethod(action = "urn:northfell:peers:reserve")
    @WebResult(name = "stay")
    public Stay reserve(
            @WebParam(name = "arrival") Date arrival,
            @WebParam(name = "guest") List<Guest> guests,
            @WebParam(name = "board") Board board,
            @WebParam(name = "trace", header = true) String trace)
            throws HutFull {
        if (trace == null) {
            throw new IllegalArgumentException("the header is needed");
        }
        if (guests != null && guests.size() > 6) {
            throw new HutFull("full", 0);
        }
        Stay stay = new Stay();
        stay.arrival = arrival == null ? new Date(0) : arrival;
        stay.board = board == null ? Board.NONE : board;
        stay.guests = guests == null || guests.isEmpty() ? List.of(new Member()) : guests;
        stay.guests.forEach(g -> g.name = g.name == null ? "Anna" : g.name);
        return stay;
    }

    @WebMethod
    public int count(@WebParam(name = "numbers") int[] numbers, @WebParam(name = "photo") byte[] photo) {
        return (numbers == null ? 0 : numbers.length) + (photo == null ? 0 : photo.length);
    }

    @WebMethod
    public List<String> areas() {
        return List.of("North", "East");
    }

    @WebMethod
    @Oneway
    public void sighted(@WebParam(name = "species") String species) {
        // nobody waits for what comes of it
    }
}

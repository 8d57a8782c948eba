package dev.mockbell.demo;

import dev.mockbell.demo.HutRegister.HutPlace;
import dev.mockbell.demo.huts.BadDate;
import dev.mockbell.demo.huts.BadDateFault;
import dev.mockbell.demo.huts.CancelReservation;
import dev.mockbell.demo.huts.CancelReservationResponse;
import dev.mockbell.demo.huts.FindHuts;
import dev.mockbell.demo.huts.FindHutsResponse;
import dev.mockbell.demo.huts.GetReservation;
import dev.mockbell.demo.huts.GetReservationResponse;
import dev.mockbell.demo.huts.HutBooking;
import dev.mockbell.demo.huts.HutFull;
import dev.mockbell.demo.huts.HutFullFault;
import dev.mockbell.demo.huts.ListAreas;
import dev.mockbell.demo.huts.ListAreasResponse;
import dev.mockbell.demo.huts.ReportSighting;
import dev.mockbell.demo.huts.Reservation;
import dev.mockbell.demo.huts.ReserveBunks;
import dev.mockbell.demo.huts.ReserveBunksResponse;
import dev.mockbell.demo.huts.UnknownHut;
import dev.mockbell.demo.huts.UnknownHutFault;
import dev.mockbell.demo.huts.UnknownReservation;
import dev.mockbell.demo.huts.UnknownReservationFault;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Clock;
import java.time.LocalDate;
import javax.xml.datatype.XMLGregorianCalendar;

/** The hut booking service over a register; both ports share one. */
class HutService implements HutBooking {
    private final HutRegister register;
    private final Clock clock;

    HutService(HutRegister register, Clock clock) {
        this.register = register;
        this.clock = clock;
    }

    private static LocalDate day(XMLGregorianCalendar date) {
        return LocalDate.of(date.getYear(), date.getMonth(), date.getDay());
    }

    @Override
    public FindHutsResponse findHuts(FindHuts request) {
        LocalDate from = day(request.from);
        FindHutsResponse response = new FindHutsResponse();
        response.hut = register.find(request.area, from, request.to == null ? from.plusDays(1) : day(request.to));
        return response;
    }

    @Override
    public ReserveBunksResponse reserveBunks(ReserveBunks request) throws HutFullFault, UnknownHutFault, BadDateFault {
        LocalDate arrival = day(request.arrival);
        if (arrival.isBefore(LocalDate.now(clock))) {
            BadDate bad = new BadDate();
            bad.date = register.date(arrival);
            bad.why = "The day of arrival is in the past.";
            throw new BadDateFault("The date will not do", bad);
        }
        HutPlace hut = register.hut(request.hutId).orElse(null);
        if (hut == null) {
            UnknownHut unknown = new UnknownHut();
            unknown.hutId = request.hutId;
            throw new UnknownHutFault("There is no such hut", unknown);
        }
        int guests = request.party.guest.size();
        synchronized (register) {
            int left = register.free(hut, arrival, request.nights);
            if (left < guests) {
                HutFull full = new HutFull();
                full.hutId = hut.id();
                full.bunksLeft = left;
                register.nextFree(hut, arrival, request.nights, guests)
                        .ifPresent(d -> full.nextFree = register.date(d));
                throw new HutFullFault("No bunks left", full);
            }
            ReserveBunksResponse response = new ReserveBunksResponse();
            response.reservation = register.reserve(hut, arrival, request.nights, guests, request.board);
            return response;
        }
    }

    @Override
    public GetReservationResponse getReservation(GetReservation request) throws UnknownReservationFault {
        GetReservationResponse response = new GetReservationResponse();
        response.reservation = register.reservation(request.code).orElseThrow(() -> unknown(request.code));
        return response;
    }

    private static UnknownReservationFault unknown(String code) {
        UnknownReservation unknown = new UnknownReservation();
        unknown.code = code;
        return new UnknownReservationFault("There is no such reservation", unknown);
    }

    @Override
    public CancelReservationResponse cancelReservation(CancelReservation request) throws UnknownReservationFault {
        Reservation gone = register.cancel(request.code).orElseThrow(() -> unknown(request.code));
        CancelReservationResponse response = new CancelReservationResponse();
        response.refund = gone.total.multiply(new BigDecimal("0.9")).setScale(2, RoundingMode.HALF_UP);
        response.currency = gone.currency;
        return response;
    }

    @Override
    public ListAreasResponse listAreas(ListAreas request) {
        ListAreasResponse response = new ListAreasResponse();
        response.area.addAll(register.areas());
        return response;
    }

    @Override
    public void reportSighting(ReportSighting request) {
        register.sighting();
    }
}

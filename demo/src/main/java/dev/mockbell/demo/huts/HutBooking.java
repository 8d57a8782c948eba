package dev.mockbell.demo.huts;

import jakarta.jws.Oneway;
import jakarta.jws.WebMethod;
import jakarta.jws.WebParam;
import jakarta.jws.WebResult;
import jakarta.jws.WebService;
import jakarta.jws.soap.SOAPBinding;
import jakarta.xml.bind.annotation.XmlSeeAlso;

/** The operations of the hut booking service; each takes and gives the element that its WSDL names. */
@WebService(name = "HutBookingPort", targetNamespace = "urn:northfell:hut-booking:service")
@SOAPBinding(parameterStyle = SOAPBinding.ParameterStyle.BARE)
@XmlSeeAlso({HutFull.class, UnknownHut.class, UnknownReservation.class, BadDate.class})
public interface HutBooking {
    /** The namespace of the messages. */
    String NAMESPACE = "urn:northfell:hut-booking";

    /** Huts of an area with the bunks that are free. */
    @WebMethod(operationName = "FindHuts", action = "urn:northfell:find")
    @WebResult(name = "FindHutsResponse", targetNamespace = HutBooking.NAMESPACE, partName = "body")
    FindHutsResponse findHuts(
            @WebParam(name = "FindHuts", targetNamespace = HutBooking.NAMESPACE, partName = "body") FindHuts request);

    /** Holds bunks for a party until the given evening. Answers with the price for the whole stay. */
    @WebMethod(operationName = "ReserveBunks", action = "urn:northfell:reserve")
    @WebResult(name = "ReserveBunksResponse", targetNamespace = HutBooking.NAMESPACE, partName = "body")
    ReserveBunksResponse reserveBunks(
            @WebParam(name = "ReserveBunks", targetNamespace = HutBooking.NAMESPACE, partName = "body")
                    ReserveBunks request)
            throws HutFullFault, UnknownHutFault, BadDateFault;

    /** A reservation by its code. */
    @WebMethod(operationName = "GetReservation", action = "urn:northfell:get")
    @WebResult(name = "GetReservationResponse", targetNamespace = HutBooking.NAMESPACE, partName = "body")
    GetReservationResponse getReservation(
            @WebParam(name = "GetReservation", targetNamespace = HutBooking.NAMESPACE, partName = "body")
                    GetReservation request)
            throws UnknownReservationFault;

    /** Gives the bunks back; nine tenths of the price are refunded. */
    @WebMethod(operationName = "CancelReservation", action = "urn:northfell:cancel")
    @WebResult(name = "CancelReservationResponse", targetNamespace = HutBooking.NAMESPACE, partName = "body")
    CancelReservationResponse cancelReservation(
            @WebParam(name = "CancelReservation", targetNamespace = HutBooking.NAMESPACE, partName = "body")
                    CancelReservation request)
            throws UnknownReservationFault;

    /** The areas that have huts. */
    @WebMethod(operationName = "ListAreas", action = "urn:northfell:areas")
    @WebResult(name = "ListAreasResponse", targetNamespace = HutBooking.NAMESPACE, partName = "body")
    ListAreasResponse listAreas(
            @WebParam(name = "ListAreas", targetNamespace = HutBooking.NAMESPACE, partName = "body") ListAreas request);

    /** Tells the wardens of an animal seen. No answer comes. */
    @WebMethod(operationName = "ReportSighting", action = "urn:northfell:sighting")
    @Oneway
    void reportSighting(
            @WebParam(name = "ReportSighting", targetNamespace = HutBooking.NAMESPACE, partName = "body")
                    ReportSighting request);
}

export { keepHandPoints, setHandLog, takeBackHandPoint } from './acts';
export { endHandLog } from './ending';
export { handLogView, type HandLogView, type HandPointView, type HandSays } from './view';
export { handRound, type RoundStop, dueHandLogs, type HandDue } from './round';
